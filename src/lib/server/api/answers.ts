import type { AcceptanceJudgement } from '#core/accept/judgeAcceptance';
import type { HopInterference } from '../services/interference';
import type { HopPlanResult } from '#core/budget/hopPlan';
import type { Catalogue } from '#core/catalogue/parts';
import type { Diagnosis } from '#core/diagnose/diagnosis';
import type { Guidance } from '#core/guide/guidance';
import type { SampledProfile } from '#core/path/samplePath';
import type { FieldRecord } from '#core/record/records';
import type { Provenance } from '#core/provenance/provenance';
import type { RevisionComparison } from '#core/review/comparePlans';
import type { PlanReview } from '#core/review/reviewPlan';
import type { SweepAnalysis } from '#core/sweep/analyseSweep';
import type { Visit } from '#core/visit/visits';
import type { VisitJudgement } from '#core/visit/judgeVisit';
import type { Actor } from '../auth/actor';
import type { Role } from '../auth/roles';
import type { SignedAcceptance } from '../services/acceptance';
import type { HubRecord } from '#core/bringup/hubRecords';
import type { Assignment } from '../services/assignments';
import type { Board, BoardView } from '../services/board';
import type { KeptCrew } from '../services/crews';
import type { KeptDayPlan } from '../services/dayPlans';
import type { CalendarAddress } from '../services/workCalendars';
import type { TimesOfWork } from '../services/durations';
import type { MyWork } from '../services/myWork';
import type { ScheduleNow } from '../services/projectMoves';
import type { KeptSchedule, ScheduleResult } from '../services/projectSchedule';
import type { KeptProject, ProjectLine } from '../services/projects';
import type { ImportedHub } from '../services/hubArchive';
import type { Hub, HubLine, ReadHub } from '../services/hubs';
import type { TerminalAcceptance } from '../services/hubAcceptance';
import type { HubRevision } from '../services/hubWork';
import type { InstallationView } from '../services/installation';
import type { Person } from '../services/accounts';
import type { AsBuilt } from '../services/asBuilt';
import type { Attachment } from '../services/attachments';
import type { PathAttenuation, PathGeometry } from '../services/compute';
import type { ImportAnswer, ImportResult } from '../services/importJob';
import type { AppendResult } from '../services/feed';
import type { ImportedHop } from '../services/hopArchive';
import type { AuditLine } from '../services/auditTrail';
import type { Hop, HopSummary, Member } from '../services/hops';
import type { MapContent } from '../services/map';
import type { OwnAccount, SecondFactorOffer } from '../services/ownAccount';
import type { PasskeyOffer } from '../services/passkeys';
import type { Page } from '../services/paging';
import type { Part, PartSummary, PartVersion } from '../services/parts';
import type { PartsImport } from '../services/partsExchange';
import type { Photo } from '../services/photos';
import type { Revision, RevisionHead } from '../services/plans';
import type { JobHead, JobOf } from '../services/jobs';
import type { ReplanResult } from '../services/replans';
import type { SimulatorAnswer } from '../services/simulation';
import type { Site } from '../services/sites';
import type { RecordCheck } from '../services/verify';
import type { Raster } from '../services/terrain';

/** Long work of every kind, with what each gives. */
export type Job =
	JobOf<'replan', ReplanResult> | JobOf<'import', ImportResult> | JobOf<'schedule', ScheduleResult>;

/** Any JSON object: documents that describe themselves. */
type Document = Record<string, unknown>;

/**
 * What every endpoint answers with JSON when all is well, by method and path. The schemas of the
 * OpenAPI document are made from these types (`npm run answers`), and the tests hold every real
 * answer to them.
 */
export interface Answers {
	'GET /openapi.json': Document;
	'POST /tokens': { token: string; tokenType: 'Bearer'; expiresAt: Date };
	'GET /me': Pick<Actor, 'userId' | 'displayName' | 'role'>;
	'GET /me/account': OwnAccount;
	'POST /me/second-factor/offer': SecondFactorOffer;
	'POST /me/passkeys/offer': PasskeyOffer;
	'POST /me/passkeys': { recoveryCodes: string[] };
	'PUT /me/second-factor': { recoveryCodes: string[] };
	'GET /people/rules': { secondFactorRoles: Role[] };
	'PUT /people/rules': { secondFactorRoles: Role[] };
	'PUT /people/:personId/role': Person;
	'POST /people/:personId/password-reset': { code: string; expiresAt: string };
	'POST /people/:personId/sign-out': Person;
	'POST /people/:personId/second-factor-removal': Person;
	'GET /installation': InstallationView;
	'POST /installation/trusted': InstallationView;
	'POST /installation/trusted/:publicKey/withdrawal': InstallationView;
	'GET /people': Page<Person>;
	'GET /audit': Page<AuditLine>;
	'POST /people': Person;
	'PUT /people/:personId/access': Person;

	'GET /catalogue': Catalogue;
	'GET /sites': Page<Site>;
	'POST /sites': Site;
	'GET /sites/:siteId': Site;
	'PUT /sites/:siteId': Site;
	'GET /sites/:siteId/attachments': Attachment[];
	'POST /sites/:siteId/attachments': Attachment;
	'GET /hops/:hopId/day-plan': { dayPlan: KeptDayPlan | null };
	'PUT /hops/:hopId/day-plan': KeptDayPlan;
	'GET /durations': TimesOfWork;
	'PUT /durations': TimesOfWork;
	'GET /crews': { crews: KeptCrew[] };
	'GET /crews/:crewId': KeptCrew;
	'PUT /crews/:crewId': KeptCrew;
	'GET /projects': { projects: ProjectLine[] };
	'GET /projects/:projectId': KeptProject;
	'PUT /projects/:projectId': KeptProject;
	'GET /projects/:projectId/schedule': { schedule: KeptSchedule | null };
	'GET /projects/:projectId/schedule/now': ScheduleNow;
	'POST /projects/:projectId/schedule': Job;
	'POST /projects/:projectId/schedule/assignments': { assigned: number };
	'GET /hops/:hopId/assignments': { assignments: Assignment[] };
	'PUT /hops/:hopId/assignments/:assignmentId': Assignment;
	'GET /board': Board;
	'GET /me/board-views': { views: BoardView[] };
	'PUT /me/board-views/:viewId': { views: BoardView[] };
	'GET /me/work': MyWork;
	'GET /me/calendars': { calendars: CalendarAddress[] };
	'POST /me/calendars': { path: string };
	'GET /hubs': Page<HubLine>;
	'POST /hubs': Hub;
	'POST /hubs/reading': ReadHub;
	'GET /hubs/:hubId': Hub;
	'PUT /hubs/:hubId': Hub;
	'GET /hubs/:hubId/revision': { revision: HubRevision | null };
	'POST /hubs/:hubId/revisions': HubRevision;
	'PUT /hubs/:hubId/practice': Hub;
	'GET /hubs/:hubId/records': { records: HubRecord[] };
	'POST /hubs/:hubId/records': { results: AppendResult[] };
	'GET /hubs/:hubId/records/check': RecordCheck;
	'POST /hubs/:hubId/stand-in': AppendResult;
	'GET /hubs/:hubId/acceptances': { acceptances: TerminalAcceptance[] };
	'POST /hubs/:hubId/acceptances': TerminalAcceptance;
	'POST /hubs/archive': ImportedHub;
	'GET /map': MapContent;
	'GET /terrain': Raster[];
	'POST /terrain': Raster;
	'POST /terrain/profile': SampledProfile;

	'GET /hops': Page<HopSummary>;
	'POST /hops': Hop;
	'GET /hops/:hopId': Hop;
	'POST /hops/:hopId/copy': Hop;
	'PUT /hops/:hopId': Hop;
	'GET /hops/:hopId/plan': HopPlanResult;
	'GET /hops/:hopId/members': Member[];
	'PUT /hops/:hopId/members': Member[];
	'GET /hops/:hopId/review': PlanReview;
	'GET /hops/:hopId/revisions': Page<RevisionHead>;
	'GET /hops/:hopId/revisions/comparison': RevisionComparison;
	'POST /hops/:hopId/revisions': Revision;
	'POST /replans': Job;
	'POST /imports': Job;
	'GET /jobs': { jobs: JobHead[] };
	'GET /jobs/:jobId': Job;
	'POST /jobs/:jobId/cancel': Job;

	'GET /hops/:hopId/records': { records: FieldRecord[]; provenance: Provenance | null };
	'POST /hops/:hopId/records': { results: AppendResult[] };
	'POST /hops/:hopId/simulator': SimulatorAnswer;
	'GET /hops/:hopId/photos': { photos: Photo[] };
	'POST /hops/:hopId/photos': Photo;
	'GET /hops/:hopId/records/check': RecordCheck;
	'GET /hops/:hopId/judgement': AcceptanceJudgement;
	'GET /hops/:hopId/acceptance': SignedAcceptance;
	'GET /hops/:hopId/acceptances': { acceptances: SignedAcceptance[] };
	'POST /hops/:hopId/acceptance': SignedAcceptance;
	'POST /hops/:hopId/sent-back': AppendResult;
	'GET /hops/:hopId/visits': { visits: Visit[]; judgement: VisitJudgement | null };
	'GET /hops/:hopId/as-built.json': AsBuilt;
	'POST /hops/archive': ImportedHop;

	'GET /hops/:hopId/interference': HopInterference;

	'POST /sweeps/analyse': SweepAnalysis;
	'POST /guidance/next': Guidance;
	'POST /diagnosis': Diagnosis;
	'POST /paths/geometry': PathGeometry;
	'POST /propagation/attenuation': PathAttenuation;
	'POST /budgets': HopPlanResult;

	'GET /parts': Page<PartSummary>;
	'POST /parts': Part;
	'GET /parts/:partId': Part;
	'PUT /parts/:partId': Part;
	'POST /parts/:partId/retirement': Part;
	'GET /parts/:partId/versions': { versions: PartVersion[] };
	'POST /parts/import': PartsImport;

	'POST /import': ImportAnswer;
	'GET /schemas/plan.json': Document;
	'GET /schemas/parts.json': Document;
}
