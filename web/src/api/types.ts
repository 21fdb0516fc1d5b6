import type { components } from './schema';

type Schemas = components['schemas'];
export type Stack = Schemas['StackOut'];
export type Counts = Schemas['Counts'];
export type EdgeLine = Schemas['EdgeLine'];
export type PageRow = Schemas['PageRow'];
export type Pages = Schemas['PagesOut'];
export type Page = Schemas['PageOut'];
export type Finding = Schemas['Finding'];
export type BoundDocument = Schemas['DocumentOut'];
export type Session = Schemas['Session'];
export type State = PageRow['state'];
export type Verdict = PageRow['verdict'];
