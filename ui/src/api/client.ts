import createClient from 'openapi-fetch';
import type { components, paths } from './schema';

type Schemas = components['schemas'];
export type Problem = Schemas['Problem'];
export type Place = Schemas['Place'];
export type Freehand = Schemas['Freehand'];
export type FreehandSetting = Schemas['FreehandSetting'];
export type FreehandUntil = Schemas['FreehandUntil'];
export type AsCut = Schemas['AsCutView'];
export type Instrument = Schemas['Instrument'];
export type InstrumentState = Schemas['InstrumentState'];
export type LiveReading = Schemas['LiveReading'];
export type FitReport = Schemas['FitReport'];
export type FittedStone = Schemas['FittedStone'];
export type LeftOff = Schemas['LeftOff'];
export type WithAndWithout = Schemas['WithAndWithout'];
export type Spot = Schemas['Spot'];
export type Reading = Schemas['Reading'];
export type Diagram = Schemas['Diagram'];
export type Draft = Schemas['Draft'];
export type DraftTier = Schemas['DraftTier'];
export type Picture = Schemas['Picture'];
export type Solved = Schemas['Solved'];
export type StoneView = Schemas['StoneView'];
export type Tier = Schemas['Tier'];
export type Mesh = Schemas['Mesh'];
export type Levels = Schemas['Levels'];
export type Segment = Schemas['Segment'];
export type Tooth = Schemas['Tooth'];
export type Dial = Schemas['Dial'];
export type Settings = Schemas['Settings'];
export type Machine = Schemas['Machine'];
export type Habits = Schemas['Habits'];
export type GearFit = Schemas['GearFit'];
export type GearReport = Schemas['GearReport'];
export type Pull = Schemas['Pull'];
export type Reach = Schemas['Reach'];
export type Reshape = Schemas['Reshape'];
export type Held = Schemas['Held'];
export type StopKind = Schemas['StopKind'];
export type StopParts = Schemas['StopParts'];
export type Usual = Schemas['Usual'];
export type Loupe = Schemas['Loupe'];
export type LoupeMeet = Schemas['LoupeMeet'];
export type SequenceReport = Schemas['SequenceReport'];
export type StopProposals = Schemas['StopProposals'];
export type AnglesReport = Schemas['AnglesReport'];
export type AnglesTarget = Schemas['AnglesTarget'];
export type MachineErrors = Schemas['MachineErrors'];
export type ToleranceLine = Schemas['ToleranceLine'];
export type ToleranceResult = Schemas['ToleranceResult'];
export type ToleranceRequest = Schemas['ToleranceRequest'];
export type LookRequest = Schemas['LookRequest'];
export type Look = Schemas['Look'];
export type LightFigures = Schemas['LightFigures'];
export type TiltPoint = Schemas['TiltPoint'];
export type SweepRequest = Schemas['SweepRequest'];
export type SweepLine = Schemas['SweepLine'];
export type SweepHead = Schemas['SweepHead'];
export type SweptPoint = Schemas['SweptPoint'];
export type PickedTier = Schemas['PickedTier'];
export type Axis = Schemas['Axis'];
export type AxisChoice = Schemas['AxisChoice'];
export type Rule = Schemas['Rule'];
export type PlacedSolid = Schemas['PlacedSolid'];
export type Point = Schemas['Point'];
export type ReadFile = Schemas['ReadFile'];
export type Wish = Schemas['Wish'];
export type RunPage = Schemas['RunPage'];
export type RunScript = Schemas['RunScript'];
export type Intake = Schemas['Intake'];
export type Photo = Schemas['Photo'];
export type RepairPage = Schemas['RepairPage'];
export type Device = Schemas['Device'];
export type DeviceList = Schemas['DeviceList'];
export type SheetPages = Schemas['SheetPages'];
export type Material = Schemas['MaterialView'];
export type Choices = Schemas['Choices'];
export type Pass = Schemas['Pass'];
export type Assessment = Schemas['Assessment'];
export type StoneLine = Schemas['StoneLine'];
export type DiagramLine = Schemas['DiagramLine'];
export type DiagramPage = Schemas['DiagramPage'];
export type DiagramList = Schemas['DiagramList'];
export type Today = Schemas['Today'];
export type Logbook = Schemas['Logbook'];
export type WorkHead = Schemas['WorkHead'];
export type StonePage = Schemas['StonePage'];
export type HistoryEntry = Schemas['HistoryEntry'];
export type Adaptation = Schemas['Adaptation'];
export type WaysOut = Schemas['WaysOut'];
export type Slips = Schemas['Slips'];
export type Die = Schemas['Die'];
export type WayOut = Schemas['WayOut'];
export type SlipName = Schemas['SlipName'];
export type LeanRequest = Schemas['LeanRequest'];
export type MovedRequest = Schemas['MovedRequest'];
export type SeatRequest = Schemas['SeatRequest'];
export type SeatView = Schemas['SeatView'];
export type Moved = Schemas['Moved'];
export type SecondSideWay = Schemas['SecondSideWay'];
export type TierChange = Schemas['TierChange'];
export type BenchScript = Schemas['BenchScript'];
export type BenchFacet = Schemas['BenchFacet'];
export type Finish = Schemas['Finish'];

/** An answer that says what went wrong and where. */
export class ApiProblem extends Error {
  constructor(readonly problem: Problem) {
    super(problem.detail);
  }

  get stale(): boolean {
    return this.problem.type === '/problems/stale';
  }
}

/** Whether a write was refused because the record was changed elsewhere meanwhile. */
export const isStale = (error: unknown): boolean => error instanceof ApiProblem && error.stale;

/** The server could not be reached; nothing is known of what became of the request. */
export class Unreachable extends Error {}

/** How long an answer may take that is only read: a hung network is as good as none. In ms. */
const patience = 20_000;

export const client = createClient<paths>({
  baseUrl: '',
  fetch: (request) =>
    request.method === 'GET'
      ? fetch(request, {
          signal: AbortSignal.any([request.signal, AbortSignal.timeout(patience)]),
        })
      : fetch(request),
});

let shutOut = () => location.reload();

/** Says what to do once this device is shut out; by itself it sees the code page at once. */
export function onShutOut(f: () => void): void {
  shutOut = f;
}

interface Answer<T> {
  data?: T;
  error?: Problem;
  response: Response;
}

/** Returns the data of an answer, or throws what went wrong. */
export async function answer<T>(request: Promise<Answer<T>>): Promise<T> {
  let a: Answer<T>;
  try {
    a = await request;
  } catch (cause) {
    throw new Unreachable('unreachable', { cause });
  }
  if (a.error?.type === '/problems/unpaired') shutOut();
  if (a.error) throw new ApiProblem(a.error);
  return a.data as T;
}

/** Calls `each` with every line of an answer that comes line by line. */
export async function eachLine<T>(
  response: Promise<Response>,
  each: (line: T) => void,
): Promise<void> {
  const reached = <R>(step: Promise<R>): Promise<R> =>
    step.catch((cause: unknown) => {
      throw new Unreachable('unreachable', { cause });
    });
  const got = await reached(response);
  if (!got.ok || !got.body) throw new ApiProblem((await reached(got.json())) as Problem);
  const text = got.body.pipeThrough(new TextDecoderStream()).getReader();
  let rest = '';
  for (;;) {
    const { done, value } = await reached(text.read());
    const lines = (rest + (value ?? '')).split('\n');
    rest = lines.pop() ?? '';
    for (const line of lines) if (line) each(JSON.parse(line) as T);
    if (done) return;
  }
}
