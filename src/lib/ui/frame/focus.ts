const HEADINGS = 'h1, h2, h3';

/** A heading or a place is no control: it takes the focus when it is given, so that reading and the Tab key go on there. */
function focus(heading: HTMLElement): void {
	if (!heading.hasAttribute('tabindex')) heading.setAttribute('tabindex', '-1');
	heading.focus({ preventScroll: true });
	heading.scrollIntoView({ block: 'nearest' });
}

function decoded(text: string): string {
	try {
		return decodeURIComponent(text);
	} catch {
		return text;
	}
}

/** Gives the focus to the place of this page that an address names, such as `#XPD`: whether there is one. */
export function focusNamed(hash: string): boolean {
	const id = hash.slice(1);
	const place = id ? (document.getElementById(id) ?? document.getElementById(decoded(id))) : null;
	if (place) focus(place);
	return place !== null;
}

/** Brings the first heading of a place into view and gives it the focus: a new step begins with its title. */
export function focusHeading(within: ParentNode | null | undefined): void {
	const heading =
		within?.querySelector<HTMLElement>('h1') ?? within?.querySelector<HTMLElement>(HEADINGS);
	if (heading) focus(heading);
}

const isOff = (element: Element): boolean =>
	!element.isConnected || (element as HTMLButtonElement).disabled;

/**
 * Keeps the focus from falling to nowhere. When what has it goes away, the nearest heading around the place
 * takes it; when it was only switched off for a while, it has the focus again as soon as it is on. Returns how
 * to stop.
 */
export function keepFocus(): () => void {
	let last: HTMLElement | undefined;
	let around: Element[] = [];
	const took = ({ target }: FocusEvent): void => {
		last = target as HTMLElement;
		around = [];
		for (let at = last.parentElement; at && at !== document.body; at = at.parentElement) {
			around.push(at);
		}
	};
	const left = ({ target, relatedTarget }: FocusEvent): void => {
		if (relatedTarget || target !== last) return;
		// What is being taken away is still here while it loses the focus: a moment later it shows.
		setTimeout(() => {
			if (target !== last) return;
			// Left by the person's own wish: a press on nothing, or another window.
			if (!isOff(target as Element)) last = undefined;
			else look();
		});
	};
	const look = (): void => {
		if (!last || document.activeElement !== document.body) return;
		if (!last.isConnected) {
			last = undefined;
			const place = around.find((one) => one.isConnected && one.querySelector(HEADINGS));
			const heading = place?.querySelector<HTMLElement>(HEADINGS);
			if (heading) focus(heading);
		} else if (!isOff(last)) last.focus({ preventScroll: true });
	};
	const observer = new MutationObserver(look);
	observer.observe(document.body, {
		...{ subtree: true, childList: true, attributes: true, attributeFilter: ['disabled'] }
	});
	document.addEventListener('focusin', took);
	document.addEventListener('focusout', left);
	return () => {
		observer.disconnect();
		document.removeEventListener('focusin', took);
		document.removeEventListener('focusout', left);
	};
}
