import type { components } from './schema'

type Schemas = components['schemas']

export type Units = 'ip' | 'si' | 'si_bar'
export type Visit = Schemas['VisitOut']
export type VisitLine = Schemas['VisitLine']
export type Today = Schemas['TodayOut']
export type Assessment = Schemas['AssessOut']
export type Suspect = Schemas['SuspectOut']
export type NextCheck = Schemas['NextCheckOut']
export type Target = Schemas['TargetOut']
export type Reading = Schemas['ReadingOut']
export type Loop = Schemas['LoopOut']
export type Heard = Schemas['HeardOut']
export type Vocabulary = Schemas['VocabularyOut']
export type PlateNumber = Schemas['PlateNumberOut']
export type Site = Schemas['SiteOut']
export type System = Schemas['SystemOut']
export type SystemPage = Schemas['SystemPage']
export type Refrigerant = Schemas['RefrigerantOut']
export type Opened = Schemas['OpenedOut']
export type Look = Schemas['LookOut']
export type PocketShape = Schemas['PocketShapeOut']
export type Blank = Schemas['BlankOut']
export type SlipShape = Schemas['SlipShapeOut']
export type Slip = Schemas['SlipOut']
export type SlipLine = Schemas['LineOut']
export type Pocket = Schemas['PocketOut']
export type Cycle = Schemas['CycleOut']
export type PressureEnthalpy = Schemas['PressureEnthalpyOut']
export type Charts = Schemas['ChartsOut']
export type ChartDrawn = Schemas['ChartDrawn']
export type ChartToday = Schemas['ChartToday']
export type PresentPoint = Schemas['PresentPoint']
export type ChartKind = Schemas['ChartKindOut']
export type MethodChoice = Schemas['MethodChoiceOut']
export type WeighIn = Schemas['WeighInOut']
export type Live = NonNullable<Visit['live']>
export type Instrument = Schemas['InstrumentOut']
export type Series = Schemas['SeriesOut']
export type Trace = Schemas['TraceOut']
export type Yard = Schemas['YardOut']
export type Job = Schemas['JobOut']
export type Done = Schemas['DoneOut']
export type Import = Schemas['ImportOut']
export type FileLook = Schemas['FileLookOut']
export type FileMapping = Schemas['MappingModel']
export type Footprint = Schemas['FootprintOut']
export type Changes = Schemas['ChangesOut']
export type Problem = Schemas['ErrorOut']

/** What a screen can know about data it asked for. Fetching again is a separate fact. */
export type Loadable<T> =
  | { status: 'pending' }
  | { status: 'error'; message: string }
  | { status: 'ready'; data: T; refreshing: boolean }
