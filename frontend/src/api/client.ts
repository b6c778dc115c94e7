import createClient from 'openapi-fetch';
import { Asked, patiently } from './patiently.svelte';
import type { components, paths } from './schema';

export type Schemas = components['schemas'];
export type Vocabulary = Schemas['VocabularyWire'];
export type Workbench = Schemas['WorkbenchWire'];
export type Step = Schemas['WrittenStep'];
export type Product = Schemas['Product'];
/** A product as it is written: what is usual may be left out. */
export type ProductDraft = Schemas['ProductInput'];
export type Finding = Schemas['Finding'];
export type Edit = Schemas['EditsBody']['edits'][number];
export type Sitter = Schemas['SitterWire'];
export type SitterSummary = Schemas['SitterSummary'];
export type ZoneReading = Schemas['ZoneReadingWire'];
export type Difference = Schemas['Difference'];
export type Preview = Schemas['PreviewWire'];
export type Candidate = Schemas['CandidateWire'];
export type Correction = Schemas['CorrectionWire'];
export type CoveringRow = Schemas['CoveringRow'];
export type Reach = Schemas['ReachWire'];
export type Mix = Schemas['MixWire'];
export type Recipe = Schemas['RecipeModel'];
export type Ranked = Schemas['RankedSchoolModel'];
export type Place = Schemas['PlaceWire'];
export type Wishes = Schemas['IntentChange'];
export type Intent = Workbench['intent'];
export type House = Schemas['HouseWire'];
export type BookRule = Schemas['BookRuleWire'];
export type HouseParameter = Schemas['ParameterWire'];
export type Kind = Step['kind'];
export type Kit = Schemas['KitWire'];
export type CardPicture = Schemas['CardPictureWire'];
export type CardSize = Schemas['SampleWire']['size'];
export type FilmRead = Schemas['FilmReadWire'];
export type PlanChanges = Schemas['PlanChangesWire'];
export type SkinPlaceRead = Schemas['SkinPlaceWire'];
export type Table = Schemas['TableWire'];
export type Ingredients = Schemas['ReadList'];
export type FilmPreview = Schemas['FilmPreviewWire'];
export type Well = Schemas['WellWire'];
export type Zone = Schemas['ZoneWire']['id'];
export type Light = Workbench['light'];
export type School = Workbench['school'];
export type Setting = Workbench['intent']['setting'];
export type Portion = Schemas['Portion'];
export type Motion = NonNullable<Portion['motion']>;
export type Tool = NonNullable<Portion['tool']>;
export type Face = Schemas['FaceWire'];
export type SitterRecord = Schemas['Sitter'];
export type Stroke = Schemas['Stroke'];
export type Placements = Schemas['PlacementsWire'];
export type EyeGrid = Schemas['EyeGridWire'];
export type HowSure = Schemas['Unsure'];
export type Pasted = Schemas['PastedWire'];
export type Described = Schemas['DescribedBody'];
export type Mention = Schemas['MentionWire'];
export type PlanSummary = Schemas['PlanSummaryWire'];
export type AdaptedPlan = Schemas['AdaptedWire'];
export type Damaged = Schemas['DamagedRecord'];
export type Hit = Schemas['Hit'];
export type About = Schemas['AboutWire'];
export type SheetInfo = Schemas['SheetWire'];
export type Hair = NonNullable<SitterRecord['hair']>;
export type Covered = NonNullable<SitterRecord['covered']>[number];
export type Course = Schemas['CourseWire'];
export type Reader = Schemas['ReaderWire'];
export type Probe = Schemas['ProbeWire'];
export type Proportions = Schemas['Proportions'];
export type Condition = Schemas['ConditionWire']['id'];
export type Preset = Sitter['preset'];
export type SkinPlace = Course['place'];
export type Score = Schemas['ScoreWire'];
export type Live = Schemas['LiveWire'];
export type Block = Schemas['BlockWire'];
export type Log = Schemas['LogInput'];
export type RunSays = Schemas['RunSaysWire'];
export type RunRow = Schemas['RunRowWire'];
export type Timing = Schemas['TimingInput'];
export type Lab = [number, number, number];
export type Tools = Schemas['ToolsWire'];
export type OwnedTool = Schemas['OwnedToolInput'];
export type NamedKit = Schemas['NamedKit'];
export type WorkspacePreview = Schemas['WorkspacePreviewWire'];
export type Weighing = Schemas['WeighWire'];
export type CandidateSpec = Schemas['CandidateSpec'];
export type Version = Schemas['VersionWire'];
export type Trial = Schemas['TrialWire'];
export type Gap = Schemas['Gap'];
export type Offered = Schemas['OfferedWire'];
export type Aim = Schemas['AimWire'];
export type Telling = Schemas['Telling'];
export type Look = Schemas['LookWire'];
export type ClassList = Schemas['ClassesWire'];
export type ClassShown = Schemas['ClassWire'];
export type ClassRoom = ClassShown['room'];
export type ClassNow = Schemas['NowWire'];
export type ClassRecap = Schemas['RecapWire'];
export type Adapting = Schemas['AdaptingWire'];
type Problem = Schemas['Problem'];

let outlives = false;

/** The page is being left: what is asked from now on goes its way without it. */
export function outlivePage() {
  outlives = true;
}

// A page that comes back from the browser's memory is as before.
globalThis.addEventListener?.('pageshow', () => (outlives = false));

export const api = createClient<paths>({
  baseUrl: '/',
  Request: Asked,
  fetch: (request) => patiently(request, (each) => fetch(each, outlives ? { keepalive: true } : undefined)),
});

/** A refusal or failure, in words for a person; `stale` when another tab or person changed the plan meanwhile. */
export class Refusal extends Error {
  constructor(
    message: string,
    readonly status: number,
  ) {
    super(message);
  }

  get stale(): boolean {
    return this.status === 409;
  }
}

type Outcome<T> = { data?: T; error?: unknown; response: Response };

/** The data of a call, or a Refusal that says why there is none. */
export async function ask<T>(call: Promise<Outcome<T>>): Promise<T> {
  let outcome: Outcome<T>;
  try {
    outcome = await call;
  } catch {
    throw new Refusal('Nabrel does not answer. Is it still running? Nothing you did is lost.', 0);
  }
  // 204: it was done, and there is nothing to say.
  if (outcome.data === undefined && outcome.response.status !== 204) {
    const problem = outcome.error as Problem | undefined;
    throw new Refusal(
      problem?.says ?? `The request failed (${outcome.response.status}).`,
      outcome.response.status,
    );
  }
  return outcome.data as T;
}
