export type Theme = 'day' | 'night';

const KEY = 'skiaxis-theme';

export function currentTheme(): Theme {
	return document.documentElement.dataset.theme === 'night' ? 'night' : 'day';
}

/** Sets the theme of this device. The night theme keeps the eyes adapted to the dark. */
export function setTheme(theme: Theme): void {
	document.documentElement.dataset.theme = theme;
	try {
		localStorage.setItem(KEY, theme);
	} catch {
		// The theme then lasts until the page is left.
	}
}

export function restoreTheme(): void {
	try {
		const kept = localStorage.getItem(KEY);
		if (kept === 'night' || kept === 'day') document.documentElement.dataset.theme = kept;
	} catch {
		// Day is the default.
	}
}
