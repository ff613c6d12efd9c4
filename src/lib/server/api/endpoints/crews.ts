import type { Crew } from '#core/schedule/crew';
import type { Durations } from '#core/schedule/tasks';
import type { ProjectDays } from '#core/schedule/projectDays';
import {
	assignmentSchema,
	boardSchema,
	calendarSchema,
	crewSchema,
	projectHopsSchema,
	projectSchema,
	viewSchema
} from '../../schemas/crews';
import { saidDurationsSchema } from '../../schemas/durations';
import { knownSchema, scheduleSchema } from '../../schemas/projectDays';
import { assign, assignmentsOfHop, unassign, type Assignment } from '../../services/assignments';
import {
	deleteView,
	listViews,
	readBoard,
	saveView,
	type BoardQuery,
	type BoardView
} from '../../services/board';
import { deleteCrew, getCrew, listCrews, saveCrew } from '../../services/crews';
import { sayTimes, timesOfWork } from '../../services/durations';
import { myWork } from '../../services/myWork';
import {
	deleteProject,
	getProject,
	listProjects,
	putIntoProject,
	saveProject,
	type Project
} from '../../services/projects';
import { scheduleNow } from '../../services/projectMoves';
import { scheduleOf, startSchedule } from '../../services/projectSchedule';
import { assignBySchedule, scheduleCsv } from '../../services/projectStays';
import {
	calendarAt,
	calendarOf,
	listCalendars,
	makeCalendar,
	withdrawCalendar
} from '../../services/workCalendars';
import { endpoint, LONG_BODY_BYTES } from '../endpoint';

const calendarFile = (text: string): Response =>
	new Response(text, {
		headers: {
			'content-type': 'text/calendar; charset=utf-8',
			'content-disposition': 'attachment; filename="work.ics"'
		}
	});

export const crewEndpoints = [
	endpoint({
		method: 'GET',
		path: '/crews',
		tag: 'Crews and projects',
		summary: 'Every crew with its people',
		access: 'signed-in',
		handle: async ({ actor }) => ({ crews: await listCrews(actor) })
	}),
	endpoint({
		method: 'GET',
		path: '/crews/:crewId',
		tag: 'Crews and projects',
		summary: 'One crew with its people',
		access: 'signed-in',
		handle: ({ actor, param }) => getCrew(actor, param('crewId'))
	}),
	endpoint<{ version: number; crew: Crew }>({
		method: 'PUT',
		path: '/crews/:crewId',
		tag: 'Crews and projects',
		summary: 'Make a crew, version 0 under an id of your own, or change it (planners)',
		access: 'signed-in',
		body: crewSchema,
		handle: ({ actor, param, body }) => saveCrew(actor, param('crewId'), body)
	}),
	endpoint({
		method: 'DELETE',
		path: '/crews/:crewId',
		tag: 'Crews and projects',
		summary: 'Delete a crew that is assigned nowhere (planners)',
		access: 'signed-in',
		status: 204,
		handle: ({ actor, param }) => deleteCrew(actor, param('crewId'))
	}),
	endpoint({
		method: 'GET',
		path: '/durations',
		tag: 'Crews and projects',
		summary: 'How long each kind of work takes: as usual, by your word, and by the records',
		access: 'signed-in',
		handle: ({ actor }) => timesOfWork(actor)
	}),
	endpoint<{ version: number; said: Durations }>({
		method: 'PUT',
		path: '/durations',
		tag: 'Crews and projects',
		summary: 'Say how long work takes, in place of what was said before (planners)',
		access: 'signed-in',
		body: saidDurationsSchema,
		handle: ({ actor, body }) => sayTimes(actor, body)
	}),
	endpoint({
		method: 'GET',
		path: '/projects',
		tag: 'Crews and projects',
		summary: 'Every project with how many of its hops you see',
		access: 'signed-in',
		handle: async ({ actor }) => ({ projects: await listProjects(actor) })
	}),
	endpoint({
		method: 'GET',
		path: '/projects/:projectId',
		tag: 'Crews and projects',
		summary: 'One project',
		access: 'signed-in',
		handle: ({ actor, param }) => getProject(actor, param('projectId'))
	}),
	endpoint<{ version: number; project: Project }>({
		method: 'PUT',
		path: '/projects/:projectId',
		tag: 'Crews and projects',
		summary: 'Make a project, version 0 under an id of your own, or change it (planners)',
		access: 'signed-in',
		body: projectSchema,
		handle: ({ actor, param, body }) => saveProject(actor, param('projectId'), body)
	}),
	endpoint({
		method: 'DELETE',
		path: '/projects/:projectId',
		tag: 'Crews and projects',
		summary: 'Delete a project; its hops stay, in none (planners)',
		access: 'signed-in',
		status: 204,
		handle: ({ actor, param }) => deleteProject(actor, param('projectId'))
	}),
	endpoint({
		method: 'GET',
		path: '/projects/:projectId/schedule',
		tag: 'Crews and projects',
		summary: 'How a project is scheduled; null while nobody has said',
		access: 'signed-in',
		handle: async ({ actor, param }) => ({
			schedule: await scheduleOf(actor, param('projectId'))
		})
	}),
	endpoint<undefined, { known?: string }>({
		method: 'GET',
		path: '/projects/:projectId/schedule/now',
		tag: 'Crews and projects',
		summary:
			'The schedule as it has moved by what was recorded since; null under a `known` key where nothing changed',
		access: 'signed-in',
		query: knownSchema,
		handle: ({ actor, param, query }) => scheduleNow(actor, param('projectId'), query.known)
	}),
	endpoint<{ id: string; days: ProjectDays }>({
		method: 'POST',
		path: '/projects/:projectId/schedule',
		tag: 'Crews and projects',
		summary: 'Schedule a project beside the requests (planners); a repeat does nothing twice',
		access: 'signed-in',
		mostBodyBytes: LONG_BODY_BYTES,
		body: scheduleSchema,
		status: 202,
		handle: ({ actor, param, body }) => startSchedule(actor, param('projectId'), body)
	}),
	endpoint({
		method: 'GET',
		path: '/projects/:projectId/schedule.csv',
		tag: 'Crews and projects',
		summary: 'The schedule of a project as CSV: who is where, and when',
		access: 'signed-in',
		produces: 'text/csv',
		handle: async ({ actor, param }) =>
			new Response(await scheduleCsv(actor, param('projectId')), {
				headers: {
					'content-type': 'text/csv; charset=utf-8',
					'content-disposition': 'attachment; filename="schedule.csv"'
				}
			})
	}),
	endpoint({
		method: 'POST',
		path: '/projects/:projectId/schedule/assignments',
		tag: 'Crews and projects',
		summary: 'Put crews where the schedule has them (planners)',
		access: 'signed-in',
		handle: ({ actor, param }) => assignBySchedule(actor, param('projectId'))
	}),
	endpoint<{ projectId: string | null; hopIds: string[]; dueDay: string | null }>({
		method: 'PUT',
		path: '/project-hops',
		tag: 'Crews and projects',
		summary: 'Put hops into a project, or into none (planners)',
		access: 'signed-in',
		body: projectHopsSchema,
		status: 204,
		handle: ({ actor, body }) => putIntoProject(actor, body)
	}),
	endpoint({
		method: 'GET',
		path: '/hops/:hopId/assignments',
		tag: 'Crews and projects',
		summary: 'Which crew is at which end of a hop, and when',
		access: 'signed-in',
		handle: async ({ actor, param }) => ({
			assignments: await assignmentsOfHop(actor, param('hopId'))
		})
	}),
	endpoint<Omit<Assignment, 'id' | 'hopId'>>({
		method: 'PUT',
		path: '/hops/:hopId/assignments/:assignmentId',
		tag: 'Crews and projects',
		summary: 'Put a crew at an end of a hop on a day, under an id of your own (planners)',
		access: 'signed-in',
		body: assignmentSchema,
		handle: ({ actor, param, body }) =>
			assign(actor, {
				...body,
				...{ id: param('assignmentId'), hopId: param('hopId') }
			})
	}),
	endpoint({
		method: 'DELETE',
		path: '/hops/:hopId/assignments/:assignmentId',
		tag: 'Crews and projects',
		summary: 'Take a crew away from an end of a hop (planners)',
		access: 'signed-in',
		status: 204,
		handle: ({ actor, param }) => unassign(actor, param('hopId'), param('assignmentId'))
	}),
	endpoint<undefined, BoardQuery>({
		method: 'GET',
		path: '/board',
		tag: 'Crews and projects',
		summary: 'Every hop you see by where its ends stand, a page at a time',
		access: 'signed-in',
		query: boardSchema,
		handle: ({ actor, query }) => readBoard(actor, query)
	}),
	endpoint({
		method: 'GET',
		path: '/me/board-views',
		tag: 'Crews and projects',
		summary: 'The views of the board that you keep',
		access: 'signed-in',
		handle: async ({ actor }) => ({ views: await listViews(actor) })
	}),
	endpoint<Omit<BoardView, 'id'>>({
		method: 'PUT',
		path: '/me/board-views/:viewId',
		tag: 'Crews and projects',
		summary: 'Keep a view of the board, under an id of your own',
		access: 'signed-in',
		body: viewSchema,
		handle: async ({ actor, param, body }) => ({
			views: await saveView(actor, { ...body, id: param('viewId') })
		})
	}),
	endpoint({
		method: 'DELETE',
		path: '/me/board-views/:viewId',
		tag: 'Crews and projects',
		summary: 'Drop a view of the board',
		access: 'signed-in',
		status: 204,
		handle: ({ actor, param }) => deleteView(actor, param('viewId'))
	}),
	endpoint({
		method: 'GET',
		path: '/me/calendar.ics',
		tag: 'Crews and projects',
		summary: 'Your own days as iCalendar',
		access: 'signed-in',
		produces: 'text/calendar',
		handle: async ({ actor, request }) =>
			calendarFile(await calendarOf(actor, null, new URL(request.url).origin))
	}),
	endpoint({
		method: 'GET',
		path: '/me/calendars',
		tag: 'Crews and projects',
		summary: 'Your addresses for calendar programs, without their secrets',
		access: 'signed-in',
		handle: async ({ actor }) => ({ calendars: await listCalendars(actor) })
	}),
	endpoint<{ id: string; crewId: string | null }>({
		method: 'POST',
		path: '/me/calendars',
		tag: 'Crews and projects',
		summary: 'Make an address that a calendar program follows; it is shown once',
		access: 'signed-in',
		body: calendarSchema,
		status: 201,
		handle: ({ actor, body }) => makeCalendar(actor, body)
	}),
	endpoint({
		method: 'DELETE',
		path: '/me/calendars/:calendarId',
		tag: 'Crews and projects',
		summary: 'Take an address back; whoever has it reads nothing more',
		access: 'signed-in',
		status: 204,
		handle: ({ actor, param }) => withdrawCalendar(actor, param('calendarId'))
	}),
	endpoint({
		method: 'GET',
		path: '/calendars/:secret',
		tag: 'Crews and projects',
		summary: 'Days of work as iCalendar, for whoever has the address',
		access: 'public',
		produces: 'text/calendar',
		handle: async ({ param, request }) =>
			calendarFile(await calendarAt(param('secret'), new URL(request.url).origin))
	}),
	endpoint({
		method: 'GET',
		path: '/me/work',
		tag: 'Crews and projects',
		summary: 'Where you work today and in the days that come, and what to bring',
		access: 'signed-in',
		handle: ({ actor }) => myWork(actor, Date.now())
	})
];
