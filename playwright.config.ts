import { defineConfig } from '@playwright/test';

export default defineConfig({
	testDir: 'tests/browser',
	globalSetup: './tests/browser/globalSetup.ts',
	fullyParallel: false,
	// Each file in one of two browsers: a test waits for a server more than for a core.
	workers: 2,
	timeout: 240_000,
	expect: { timeout: 20_000 },
	retries: 0,
	reporter: process.env.SKIAXIS_REPORT
		? [['list'], ['json', { outputFile: process.env.SKIAXIS_REPORT }]]
		: [['list']],
	use: {
		viewport: { width: 1280, height: 800 },
		// Each new browser would fetch the whole program for later; tests of work offline allow it.
		serviceWorkers: 'block',
		actionTimeout: 30_000,
		trace: 'off',
		launchOptions: {
			executablePath: '/usr/bin/chromium',
			args: [
				'--no-sandbox',
				'--disable-gpu',
				'--disable-background-networking',
				'--disable-component-update',
				'--disable-sync',
				'--no-first-run'
			]
		}
	}
});
