import { HttpClient, HttpErrorResponse } from '@angular/common/http';
import { inject, Injectable } from '@angular/core';
import type {
  BenchView,
  BreakBeside,
  BreaksView,
  Certificate,
  DayView,
  DecisionEffect,
  DecisionsPage,
  DecisionTried,
  Equipment,
  FindingView,
  Instrument,
  Item,
  KitSheet,
  LedgerCounts,
  LedgerPage,
  LedgerView,
  MixSeries,
  MixesPage,
  MixSheet,
  OwnCopy,
  Page,
  Person,
  Pour,
  PourDetail,
  Project,
  Report,
  Sample,
  Sheet,
  SourceNow,
  SourceSheet,
  Specification,
  Test,
  TestTurn,
  Trend,
  WholeSeries,
} from '@keen-mortar/contract';
import type { ItemKind } from '@keen-mortar/core';
import { problem, type Problem } from '@keen-mortar/contract/problem';
import type { Observable } from 'rxjs';

const AWAY: Problem = {
  type: 'about:blank#away',
  title: 'No connection',
  status: 0,
  detail: 'The server does not answer. What you keyed is safe on this device.',
  code: 'away',
};

/** What went wrong with a request, as a problem; a server that is away is one too. */
export function problemOf(error: unknown): Problem {
  if (error instanceof HttpErrorResponse) {
    const parsed = problem.safeParse(error.error);
    if (parsed.success) return parsed.data;
    if (error.status === 0 || error.status >= 500) return AWAY;
    return { ...AWAY, code: 'unknown', title: 'Unexpected answer', status: error.status, detail: `The server answered ${error.status}.` };
  }
  return { ...AWAY, code: 'unknown', title: 'Something went wrong on this page', detail: String(error) };
}

/** Whether trying again later can help: the server or its database is away. */
export const isAway = (p: Problem): boolean => p.status === 0 || p.status >= 500;

export const PROJECTS_AT_ONCE = 200;

@Injectable({ providedIn: 'root' })
export class Api {
  private readonly http = inject(HttpClient);

  people = (): Observable<Page<Person>> => this.http.get<Page<Person>>('/api/v1/people');
  projects = (offset: number): Observable<Page<Project>> =>
    this.http.get<Page<Project>>('/api/v1/projects', { params: { offset, limit: PROJECTS_AT_ONCE } });
  health = (): Observable<{ now: string }> => this.http.get<{ now: string }>('/api/v1/health');
  pours = (project: string, offset: number, limit: number): Observable<Page<Pour>> =>
    this.http.get<Page<Pour>>('/api/v1/pours', { params: { project, offset, limit } });
  pour = (id: string): Observable<PourDetail> => this.http.get<PourDetail>(`/api/v1/pours/${id}`);
  mixes = (project: string, offset = 0, limit = 200): Observable<MixesPage> =>
    this.http.get<MixesPage>('/api/v1/mixes', { params: { project, offset, limit } });
  mixSheet = (id: string): Observable<MixSheet> => this.http.get<MixSheet>(`/api/v1/mixes/${id}/sheet`);
  sources = (project: string, offset = 0, limit = 200): Observable<Page<SourceNow>> =>
    this.http.get<Page<SourceNow>>('/api/v1/sources', { params: { project, offset, limit } });
  /** @param at as it was known then; now, where it is not given */
  source = (id: string, at?: string): Observable<SourceSheet> =>
    this.http.get<SourceSheet>(`/api/v1/sources/${id}`, { params: at === undefined ? {} : { at } });
  /** @param age days, of those at which something is accepted; undefined: the youngest */
  mixSeries = (id: string, age?: number): Observable<MixSeries> =>
    this.http.get<MixSeries>(`/api/v1/mixes/${id}/series`, { params: age === undefined ? {} : { age } });
  wholeSeries = (id: string, age: number): Observable<WholeSeries> =>
    this.http.get<WholeSeries>(`/api/v1/mixes/${id}/series/whole`, { params: { age } });
  mixTrends = (id: string): Observable<{ trends: Trend[] }> => this.http.get<{ trends: Trend[] }>(`/api/v1/mixes/${id}/trends`);
  specifications = (project: string, offset = 0, limit = 200): Observable<Page<Specification>> =>
    this.http.get<Page<Specification>>('/api/v1/specifications', { params: { project, offset, limit } });
  specification = (id: string): Observable<Specification> => this.http.get<Specification>(`/api/v1/specifications/${id}`);

  /** @param begins with this, code or name; all where it is empty */
  items = (project: string, kind: ItemKind, offset: number, limit: number, begins = ''): Observable<Page<Item>> =>
    this.http.get<Page<Item>>('/api/v1/items', { params: { project, kind, offset, limit, ...(begins === '' ? {} : { begins }) } });
  item = (id: string): Observable<Sheet> => this.http.get<Sheet>(`/api/v1/items/${id}`);

  /** @param asked the filter, the order and where the page begins, as the ledger takes them */
  ledger = (project: string, asked: Readonly<Record<string, string>>): Observable<LedgerPage> =>
    this.http.get<LedgerPage>('/api/v1/ledger', { params: { project, ...asked } });
  ledgerCounts = (project: string, asked: Readonly<Record<string, string>>): Observable<LedgerCounts> =>
    this.http.get<LedgerCounts>('/api/v1/ledger/counts', { params: { project, ...asked } });
  ledgerViews = (project: string, by: string): Observable<{ items: LedgerView[] }> =>
    this.http.get<{ items: LedgerView[] }>('/api/v1/ledger/views', { params: { project, by } });
  reports = (project: string, offset: number, limit: number): Observable<Page<Report>> =>
    this.http.get<Page<Report>>('/api/v1/reports', { params: { project, offset, limit } });
  report = (id: string): Observable<Report> => this.http.get<Report>(`/api/v1/reports/${id}`);
  test = (id: string): Observable<Test> => this.http.get<Test>(`/api/v1/tests/${id}`);
  reportsOfTest = (id: string): Observable<{ items: Report[] }> => this.http.get<{ items: Report[] }>(`/api/v1/tests/${id}/reports`);
  turns = (id: string): Observable<{ items: TestTurn[] }> => this.http.get<{ items: TestTurn[] }>(`/api/v1/tests/${id}/turns`);

  equipment = (project: string, offset: number, limit: number): Observable<Page<Equipment>> =>
    this.http.get<Page<Equipment>>('/api/v1/equipment', { params: { project, offset, limit } });
  /** @param finding whose tests in question are meant; null: those since its calibration */
  kitSheet = (id: string, offset: number, limit: number, finding: string | null): Observable<KitSheet> =>
    this.http.get<KitSheet>(`/api/v1/equipment/${id}/sheet`, { params: { offset, limit, ...(finding === null ? {} : { finding }) } });

  /** In force and to come; of one variant all that it ever had. */
  ownCopies = (project: string, of?: { method: string; variant: string }): Observable<OwnCopy[]> =>
    this.http.get<OwnCopy[]>('/api/v1/own-copies', { params: { project, ...of } });

  instruments = (): Observable<{ items: Instrument[] }> => this.http.get<{ items: Instrument[] }>('/api/v1/instruments');
  certificates = (): Observable<{ items: Certificate[] }> => this.http.get<{ items: Certificate[] }>('/api/v1/certificates');
  bench = (project: string): Observable<BenchView> => this.http.get<BenchView>('/api/v1/bench', { params: { project } });
  breaks = (project: string): Observable<BreaksView> => this.http.get<BreaksView>('/api/v1/breaks', { params: { project } });
  breakBeside = (specimenId: string): Observable<BreakBeside> => this.http.get<BreakBeside>(`/api/v1/breaks/${specimenId}`);
  findings = (subjectId: string): Observable<{ items: FindingView[] }> =>
    this.http.get<{ items: FindingView[] }>(`/api/v1/items/${subjectId}/findings`);
  decisions = (project: string, offset = 0, limit = 25): Observable<DecisionsPage> =>
    this.http.get<DecisionsPage>('/api/v1/decisions', { params: { project, offset, limit } });
  decisionEffect = (tried: DecisionTried): Observable<DecisionEffect> =>
    this.http.get<DecisionEffect>('/api/v1/decisions/effect', { params: { ...tried } });
  day = (project: string): Observable<DayView> => this.http.get<DayView>('/api/v1/day', { params: { project } });
  hours = (project: string): Observable<Pick<DayView, 'week' | 'openings'>> =>
    this.http.get<Pick<DayView, 'week' | 'openings'>>('/api/v1/hours', { params: { project } });

  sample = (id: string): Observable<Sample> => this.http.get<Sample>(`/api/v1/samples/${id}`);
  /** Any write: safe to repeat, since its body carries its own id. */
  write = <T>(path: string, body: object): Observable<T> => this.http.post<T>(`/api/v1${path}`, body);
  /** Tells others who is keying what; of no account when it is lost. */
  keying = (sampleId: string, who: { by: string; testId: string; method: string }): Observable<unknown> =>
    this.http.post(`/api/v1/samples/${sampleId}/keying`, who);
}
