/** Day, full sun (black on white, nothing thin or grey), night (keeps the eyes adapted to the dark). */
export const THEMES = ['day', 'sun', 'night'] as const;
export type Theme = (typeof THEMES)[number];

/** What a person chooses on a device: a theme, or whatever the device itself is set to, light or dark. */
export const THEME_CHOICES = [...THEMES, 'device'] as const;
export type ThemeChoice = (typeof THEME_CHOICES)[number];

// The script in `app.html` reads the same key before anything is painted.
const KEY = 'skiaxis-theme';
const DARK = '(prefers-color-scheme: dark)';

/** What is chosen on this device. */
export function currentChoice(): ThemeChoice {
	try {
		const value = localStorage.getItem(KEY);
		return THEME_CHOICES.find((choice) => choice === value) ?? 'day';
	} catch {
		// Without storage day is the theme of every visit.
		return 'day';
	}
}

const themeOf = (choice: ThemeChoice): Theme =>
	choice === 'device' ? (matchMedia(DARK).matches ? 'night' : 'day') : choice;

function show(choice: ThemeChoice): void {
	const root = document.documentElement;
	root.dataset.theme = themeOf(choice);
	// The bar of the browser around the page is of the page's own colour.
	const paper = getComputedStyle(root).getPropertyValue('--paper').trim();
	document.querySelector('meta[name="theme-color"]')?.setAttribute('content', paper);
}

/** The choice that follows another when they are gone through in turn. */
export function choiceAfter(choice: ThemeChoice): ThemeChoice {
	return THEME_CHOICES[(THEME_CHOICES.indexOf(choice) + 1) % THEME_CHOICES.length]!;
}

/** Sets the theme of this device. */
export function setTheme(choice: ThemeChoice): void {
	show(choice);
	try {
		localStorage.setItem(KEY, choice);
	} catch {
		// The theme then lasts until the page is left.
	}
}

/** Shows what is chosen, and goes with the device where that is the choice. Returns how to stop. */
export function followTheme(): () => void {
	const again = (): void => show(currentChoice());
	again();
	const dark = matchMedia(DARK);
	dark.addEventListener('change', again);
	// Chosen in another tab.
	addEventListener('storage', again);
	return () => {
		dark.removeEventListener('change', again);
		removeEventListener('storage', again);
	};
}
