/** Day, full sun (black on white, nothing thin or grey), night (keeps the eyes adapted to the dark). */
export const THEMES = ['day', 'sun', 'night'] as const;
export type Theme = (typeof THEMES)[number];

const KEY = 'skiaxis-theme';

const themeOf = (value: string | null | undefined): Theme =>
	THEMES.find((theme) => theme === value) ?? 'day';

export function currentTheme(): Theme {
	return themeOf(document.documentElement.dataset.theme);
}

/** The theme that follows another when they are gone through in turn. */
export function themeAfter(theme: Theme): Theme {
	return THEMES[(THEMES.indexOf(theme) + 1) % THEMES.length]!;
}

/** Sets the theme of this device. */
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
		document.documentElement.dataset.theme = themeOf(localStorage.getItem(KEY));
	} catch {
		// Day is the default.
	}
}
