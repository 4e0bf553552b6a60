import createClient from 'openapi-fetch';
import type { components, paths } from './schema';

export const api = createClient<paths>({ baseUrl: '' });

type Schemas = components['schemas'];
export type SceneSummary = Schemas['SceneSummary'];
export type FoundScene = Schemas['FoundScene'];
export type SceneDetail = Schemas['SceneDetail'];
export type MusterView = Schemas['MusterView'];
export type ReferenceItem = Schemas['ReferenceItem'];
export type BundleItem = Schemas['BundleItem'];
export type EvidenceView = Schemas['EvidenceView'];
export type CandidateItem = Schemas['CandidateItem'];
export type LedgerView = Schemas['LedgerView'];
export type EntryItem = Schemas['EntryItem'];
export type SendOffView = Schemas['SendOffView'];
export type PackageItem = Schemas['PackageItem'];
export type WriteChoices = Schemas['WriteChoices'];
export type IntoForm = Schemas['IntoForm'];
export type FolderView = Schemas['FolderView'];
export type Crumb = Schemas['Crumb'];
export type FolderEntry = Schemas['FolderEntry'];
export type RootItem = Schemas['RootItem'];
export type RootDetail = Schemas['RootDetail'];
export type NamesView = Schemas['NamesView'];
export type ReplaceInPaths = Schemas['ReplaceInPaths'];
export type ReplacedItem = Schemas['ReplacedItem'];
export type VariantOption = Schemas['VariantOption'];
export type HouseView = Schemas['HouseView'];
export type WorkItem = Schemas['WorkItem'];
export type Decide = Schemas['Decide'];
export type TransferView = Schemas['TransferView'];
export type FamilyItem = Schemas['FamilyItem'];
export type ComparedScene = Schemas['ComparedScene'];
export type VariantItem = Schemas['VariantItem'];
export type AuditView = Schemas['AuditView'];
export type CauseItem = Schemas['CauseItem'];
export type CauseView = Schemas['CauseView'];
export type MemberItem = Schemas['MemberItem'];
export type RailInput = Schemas['RailInput'];
export type ImageItem = Schemas['ImageItem'];
export type PlotView = Schemas['PlotView'];
export type FixView = Schemas['FixView'];
export type HandView = Schemas['HandView'];
export type HandOf = Schemas['HandOf'];
export type HandSaid = Schemas['HandSaid'];
export type HandKind = Schemas['HandKind'];
export type HandInputItem = Schemas['HandInputItem'];
export type HandImageItem = Schemas['HandImageItem'];
export type HandPlaceItem = Schemas['HandPlaceItem'];
export type ManyDecision = Schemas['ManyDecision'];
export type ManyRow = Schemas['ManyRow'];
export type ManyChoices = Schemas['ManyChoices'];
export type RuleView = Schemas['RuleView'];
export type RecipeItem = Schemas['RecipeItem'];
export type DestinationChange = Schemas['DestinationChange'];

export type BenchView = Schemas['BenchView'];
export type MomentItem = Schemas['MomentItem'];
export type SceneViewed = Schemas['SceneViewed'];
export type ViewFile = Schemas['ViewedFile'];
export type ViewPart = Schemas['ViewPart'];
export type ViewedLook = Schemas['ViewedLook'];
export type BenchItem = Schemas['BenchItem'];
export type MarkKind = Schemas['MarkKind'];
export type LooksView = Schemas['LooksView'];
export type HeldView = Schemas['HeldView'];
export type HeldInput = Schemas['HeldInput'];
export type HeldImage = Schemas['HeldImage'];
export type HeldFinding = Schemas['HeldFinding'];
export type WireAct = Schemas['WireAct'];
export type WireChoice = Schemas['WireChoice'];
export type Channels = Schemas['Channels'];
export type CopyView = Schemas['CopyView'];
export type PlaneView = Schemas['PlaneView'];
export type OtherImage = Schemas['OtherImage'];

export type CrossingView = Schemas['CrossingView'];
export type CrossingRoute = Schemas['CrossingRoute'];
export type TakeOver = Schemas['TakeOver'];
export type CrossRow = Schemas['CrossRow'];
export type CrossedView = Schemas['CrossedView'];
export type MappingItem = Schemas['MappingItem'];
export type SetValueOf = Schemas['SetValueOf'];

/** A refusal in one sentence, as the server said it. */
export class Refusal extends Error {}

/** The data of an answer, or a {@link Refusal} with the problem document's title. */
export async function unwrap<T>(answer: Promise<{ data?: T; error?: unknown; response: Response }>): Promise<T> {
  const { data, error, response } = await answer.catch(() => {
    throw new Refusal('The server does not answer. Nothing was changed; try again when it runs.');
  });
  if (response.ok) return data as T;
  throw new Refusal(titleOf(error) ?? `The server answered with status ${response.status}.`);
}

export function titleOf(problem: unknown): string | undefined {
  return typeof problem === 'object' && problem !== null && 'title' in problem ? String(problem.title) : undefined;
}
