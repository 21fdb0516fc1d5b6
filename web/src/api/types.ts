import type { components } from './schema';

type Schemas = components['schemas'];
export type Stack = Schemas['StackOut'];
export type Counts = Schemas['Counts'];
export type EdgeLine = Schemas['EdgeLine'];
/** A page in the list of its stack, with its 1-based place there. */
export type PageRow = Schemas['PageRow'] & { number: number };
export type PagesNews = Schemas['PagesOut'];
/** The pages of a stack in order. */
export type Pages = Omit<PagesNews, 'pages' | 'order'> & { pages: PageRow[] };
export type Doing = Schemas['ChangeIn']['doing'];
export type Reordering = Schemas['Reorder']['do'];
export type Change = Schemas['ChangeOut'];
export type History = Schemas['HistoryOut'];
export type Page = Schemas['PageOut'];
export type Finding = Schemas['Finding'];
export type BoundDocument = Schemas['DocumentOut'];
export type Session = Schemas['Session'];
export type State = PageRow['state'];
export type Verdict = PageRow['verdict'];
export type Station = Schemas['StationOut'];
export type CaptureSettings = Schemas['CaptureSettings'];
export type Run = Schemas['RunOut'];
export type TakenIn = Schemas['FileOut'];
export type ExpectedFile = Schemas['UploadOut'];
export type OrderSlip = Schemas['SlipOut'];
export type Watch = Schemas['WatchOut'];
export type DocumentsAfter = Stack['new_document_after'];
export type PaperSize = Schemas['PaperOut'];
export type Tried = Schemas['TriedOut'];
export type Trouble = Schemas['Trouble'];
export type Fault = Schemas['Fault'];
export type Former = Schemas['Former'];
export type MasterRecord = Schemas['MasterRecord'];
export type StackFinding = Schemas['StackFinding'];
