/** What protects people, packed before anybody leaves. */
export const PROTECTION = [
	'Helmet, harness and two lanyards a climber, gloves, eye protection',
	'Rescue plan and kit for this structure',
	'Personal exposure monitor, where other antennas send on this mast'
] as const;

/** What is asked for at the gate, and not to be had up there. */
export const PAPERS = [
	'Site sheet of this revision, both ends',
	'Licence: frequencies, power and place',
	'Permit to work, key or access, and who to call at either end',
	'The engineer’s word for what mast and mount carry'
] as const;
