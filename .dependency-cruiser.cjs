/**
 * Which way imports run: routes → interface and server → core. Each rule is proven by a fixture that
 * breaks it, in tests/imports.
 */
const CORE = '^src/core/';
const UI = '^src/lib/(ui|workers|plan)/';
const SERVER = '^src/lib/server/';
const ROUTES = '^src/(routes/|hooks|service-worker)';
const outside = (...names) => names.map((name) => `^(node_modules/)?${name}(/|$)`).join('|');

/** @type {import('dependency-cruiser').IConfiguration} */
module.exports = {
	forbidden: [
		{
			name: 'no-cycle',
			comment: 'Modules that need each other are one module, or lack a third.',
			severity: 'error',
			from: {},
			to: { circular: true, viaOnly: { pathNot: '^src/lib/ui/parts/PartFields\\.svelte$' } }
		},
		{
			name: 'no-folder-cycle',
			comment: 'A room of the core that needs another is not needed by it.',
			scope: 'folder',
			severity: 'error',
			from: { path: CORE },
			to: { circular: true }
		},
		{
			name: 'core-is-pure',
			comment: 'The core imports itself and pure packages: no interface, no database, no Node.',
			severity: 'error',
			from: { path: CORE },
			to: {
				pathNot: [CORE, outside('geographiclib-geodesic', 'geomagnetism', 'luxon', 'suncalc')]
			}
		},
		{
			name: 'units-are-the-floor',
			severity: 'error',
			from: { path: '^src/core/units/' },
			to: { path: CORE, pathNot: '^src/core/units/' }
		},
		{
			name: 'lib-knows-no-routes',
			severity: 'error',
			from: { path: '^src/lib/' },
			to: { path: '^src/routes/' }
		},
		{
			name: 'ui-and-server-apart',
			severity: 'error',
			from: { path: UI },
			to: { path: SERVER }
		},
		{
			name: 'server-and-ui-apart',
			severity: 'error',
			from: { path: SERVER },
			to: { path: '^src/lib/(ui|workers)/' }
		},
		{
			name: 'components-know-no-drafts-of-the-server',
			comment: 'Only what computes a plan in the browser reads plan drafts as the server has them.',
			severity: 'error',
			from: { path: '^src/lib/ui/(align|build|stages|record|hop|frame)/' },
			to: { path: '^src/lib/plan/' }
		},
		{
			name: 'routes-know-no-models',
			severity: 'error',
			from: { path: ROUTES },
			to: {
				path: ['^src/lib/server/db/(?!connection\\.ts$)', '^src/lib/server/repositories/']
			}
		},
		{
			name: 'only-repositories-know-the-database',
			comment: 'Services open a unit of work and are told what is taken; the rest is repositories.',
			severity: 'error',
			from: {
				path: '^src/',
				pathNot: ['^src/lib/server/(repositories|db|commands)/', '^src/hooks\\.server\\.ts$']
			},
			to: {
				path: ['^src/lib/server/db/(?!(transaction|taken)\\.ts$)', outside('sequelize', 'mysql2')]
			}
		},
		{
			name: 'services-know-no-api',
			severity: 'error',
			from: { path: '^src/lib/server/(services|repositories|db|auth|formats|pdf)/' },
			to: { path: '^src/lib/server/api/' }
		},
		{
			name: 'repositories-know-no-services',
			severity: 'error',
			from: { path: '^src/lib/server/(repositories|db)/' },
			to: { path: '^src/lib/server/(services|api|pdf|demo)/' }
		},
		{
			name: 'db-knows-nobody',
			severity: 'error',
			from: { path: '^src/lib/server/db/' },
			to: {
				path: '^src/lib/server/',
				pathNot: '^src/lib/server/(db/|config\\.ts$|errors\\.ts$|log\\.ts$|auth/roles\\.ts$)'
			}
		},
		{
			name: 'endpoints-know-no-database',
			severity: 'error',
			from: { path: '^src/lib/server/api/' },
			to: { path: ['^src/lib/server/(db|repositories)/', outside('sequelize', 'mysql2')] }
		}
	],
	options: {
		doNotFollow: { path: 'node_modules' },
		tsConfig: { fileName: 'tsconfig.imports.json' },
		tsPreCompilationDeps: true,
		enhancedResolveOptions: {
			extensions: ['.ts', '.svelte.ts', '.svelte', '.js', '.mjs', '.json'],
			conditionNames: ['svelte', 'browser', 'import', 'default']
		}
	}
};
