/**
 * Whether a sheet is open, and whether it ever was: a sheet that is seldom needed is fetched when it
 * is first asked for, and then stays, so that what was typed in it stays too.
 */
export class Opening {
	#open = $state(false);
	#ever = $state(false);

	get open(): boolean {
		return this.#open;
	}

	set open(open: boolean) {
		if (open) this.#ever = true;
		this.#open = open;
	}

	get ever(): boolean {
		return this.#ever;
	}
}
