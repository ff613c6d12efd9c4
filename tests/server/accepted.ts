import { randomUUID } from 'node:crypto';
import { CLOSING_QUESTIONS } from '#core/accept/closing';
import { bothReady, call, reading, record, type Answer, type Caller, type TestHop } from './world';

export const lock = (end: 'A' | 'B', i: number): object =>
	record(end, 'lock-step', {
		fastenerIndex: i,
		fastener: `Nut ${i}`,
		locks: 'tilt',
		torqueNm: 24,
		beforeDbm: -60,
		afterDbm: -60.1,
		source: 'hand'
	});
export const operating = {
	powerControlAsPlanned: true,
	adaptiveModulationAsPlanned: true,
	licensedPower: true
};
export const closingLook = (end: 'A' | 'B'): object =>
	record(end, 'closing-check', {
		answers: Object.fromEntries(CLOSING_QUESTIONS.map(({ key }) => [key, 'yes'])),
		note: ''
	});

/** Records everything that an acceptance asks for; gives the last place in the feed. */
export async function finish(crew: Caller, hop: TestHop): Promise<number> {
	await bothReady(crew, hop.id);
	const done = await call<{ results: { seq: number }[] }>(crew, 'POST', `/hops/${hop.id}/records`, {
		records: [
			...[0, 1, 2, 3].map((i) => lock('A', i)),
			record('A', 'baton', { to: 'B' }),
			...[0, 1, 2, 3].map((i) => lock('B', i)),
			record('A', 'reading', reading(-60, 'final')),
			record('B', 'reading', reading(-60, 'final')),
			record('A', 'operating-state', operating),
			record('B', 'operating-state', operating),
			closingLook('A'),
			closingLook('B'),
			record('A', 'crew-signature', { name: 'Ada Crew', method: 'typed' })
		]
	});
	if (done.status !== 200) throw new Error(done.text);
	return done.body.results.at(-1)!.seq;
}

/** Signs with a cause for whatever deviates. */
export async function signAll(
	acceptor: Caller,
	hop: TestHop,
	lastSeq: number,
	id: string = randomUUID()
): Promise<Answer> {
	const judged = await call<{ lines: { code: string; verdict: string }[] }>(
		acceptor,
		'GET',
		`/hops/${hop.id}/judgement`
	);
	const causes = Object.fromEntries(
		judged.body.lines
			.filter(({ verdict }) => verdict === 'deviation')
			.map(({ code }) => [code, 'Agreed on site.'])
	);
	return call(acceptor, 'POST', `/hops/${hop.id}/acceptance`, {
		id,
		lastSeq,
		causes,
		signature: { name: 'Ada Signer', method: 'typed' }
	});
}
