import js from '@eslint/js';
import prettier from 'eslint-config-prettier';
import svelte from 'eslint-plugin-svelte';
import globals from 'globals';
import ts from 'typescript-eslint';
import svelteConfig from './svelte.config.js';

export default ts.config(
	{ ignores: ['build/', '.svelte-kit/', 'node_modules/', '.data/', 'test-results/'] },
	js.configs.recommended,
	...ts.configs.strictTypeChecked,
	...svelte.configs.recommended,
	prettier,
	...svelte.configs.prettier,
	{
		languageOptions: {
			globals: { ...globals.browser, ...globals.node },
			parserOptions: { projectService: true, extraFileExtensions: ['.svelte'] }
		},
		rules: {
			'no-undef': 'off',
			'no-console': 'error',
			'@typescript-eslint/no-non-null-assertion': 'off',
			'@typescript-eslint/no-dynamic-delete': 'off',
			'@typescript-eslint/restrict-template-expressions': ['error', { allowNumber: true }],
			'@typescript-eslint/no-confusing-void-expression': ['error', { ignoreArrowShorthand: true }],
			'@typescript-eslint/no-invalid-void-type': 'off',
			'@typescript-eslint/explicit-function-return-type': [
				'error',
				{ allowExpressions: true, allowTypedFunctionExpressions: true }
			],
			eqeqeq: ['error', 'always', { null: 'ignore' }],
			// Links get addresses that their callers made with resolve(); the rule cannot see through props.
			'svelte/no-navigation-without-resolve': ['error', { ignoreLinks: true }]
		}
	},
	{
		files: ['src/core/**/*.ts'],
		rules: {
			'no-restricted-globals': [
				'error',
				{ name: 'window', message: 'The core has no interface.' },
				{ name: 'document', message: 'The core has no interface.' },
				{ name: 'process', message: 'The core has no environment.' },
				{ name: 'globalThis', message: 'The core has no world of its own.' },
				{ name: 'fetch', message: 'The core asks nobody.' },
				{ name: 'setTimeout', message: 'The core has no clock.' },
				{ name: 'setInterval', message: 'The core has no clock.' },
				{ name: 'crypto', message: 'The core has no randomness of its own.' }
			],
			'no-restricted-properties': [
				'error',
				{ object: 'Math', property: 'random', message: 'The core has no randomness of its own.' },
				{ object: 'Date', property: 'now', message: 'The core has no clock.' },
				{ object: 'performance', property: 'now', message: 'The core has no clock.' }
			],
			'no-restricted-syntax': [
				'error',
				{
					selector: "NewExpression[callee.name='Date'][arguments.length=0]",
					message: 'The core has no clock.'
				}
			]
		}
	},
	{
		files: ['src/lib/server/**/*.ts', 'src/routes/**/*.ts'],
		ignores: ['src/lib/server/errors.ts'],
		rules: {
			'no-restricted-syntax': [
				'error',
				{
					selector: "NewExpression[callee.name='AppError']",
					message: 'Refusals stand in refusals.ts, by their code: refusal(code, …).'
				}
			]
		}
	},
	{
		files: ['**/*.svelte', '**/*.svelte.ts'],
		languageOptions: { parserOptions: { parser: ts.parser, svelteConfig } }
	},
	{
		files: ['scripts/**/*.mjs', 'bench/**/*.mjs', '**/*.svelte'],
		rules: { 'no-console': 'off', '@typescript-eslint/explicit-function-return-type': 'off' }
	},
	{
		files: ['**/*.mjs', '**/*.cjs', '**/*.js'],
		rules: { '@typescript-eslint/explicit-function-return-type': 'off' }
	},
	{
		// Types of components and scripts are checked by svelte-check and tsc, which see them whole.
		files: [
			'**/*.svelte',
			'**/*.mjs',
			'**/*.cjs',
			'**/*.js',
			'*.config.ts',
			'bench/**',
			'src/service-worker.ts'
		],
		extends: [ts.configs.disableTypeChecked]
	}
);
