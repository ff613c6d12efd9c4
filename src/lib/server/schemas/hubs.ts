import { HUB_FIELDS } from '#core/hub/hubFields';
import { profileOf } from './inputs';
import { joi, uuid } from './joi';
import { schemasOf } from './planFields';

/** Ground on the way to a terminal: hundreds of metres of it, not hundreds of kilometres. */
const MOST_TERMINAL_POINTS = 400;

const { terminals, ...rest } = HUB_FIELDS;

/** A terminal as it is sent, or read from a file. */
export const terminalSchema = joi.object({
	...schemasOf(terminals.item),
	profile: profileOf(MOST_TERMINAL_POINTS).allow(null).default(null).label('Profile')
});

/** What is planned of the hub itself. */
export const hubPlanSchema = joi.object(schemasOf(rest));

export const terminalsSchema = joi
	.array()
	.items(terminalSchema)
	.max(terminals.most)
	.default([])
	.label(terminals.label);

/** A hub as it is sent: its name, its site, and what is planned. */
export const hubSchema = hubPlanSchema.keys({
	name: joi.string().trim().min(2).max(120).required().label('Name of the hub').example('Harbour'),
	siteId: uuid().required().label('Site'),
	version: joi.number().integer().min(1).label('Version'),
	terminals: terminalsSchema
});
