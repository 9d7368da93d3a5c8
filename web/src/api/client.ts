/** The typed client, made from the application's own OpenAPI document. */
import createClient from 'openapi-fetch'
import type { Readable } from 'openapi-typescript-helpers'

import type { components, paths } from './schema'

export const api = createClient<paths>({ baseUrl: '/' })

/** Schemas as answers carry them. */
type Schemas = { [Name in keyof components['schemas']]: Readable<components['schemas'][Name]> }
export type Assessment = Schemas['Assessment']
export type AssessmentParts = Schemas['AssessmentParts']
export type Endurance = Schemas['Endurance']
export type Advice = Schemas['Advice']
export type Balance = Schemas['Balance']
export type CellProblem = Schemas['CellProblem']
export type ChemistryRow = Schemas['ChemistryRow']
export type ChemistryTypical = Schemas['ChemistryTypical']
export type Circuit = Schemas['Circuit']
export type FurtherPanel = Schemas['FurtherPanel']
export type FurtherCircuit = Schemas['FurtherCircuit']
export type CircuitEntry = Schemas['CircuitEntry']
export type CircuitState = Schemas['CircuitState']
export type Controller = Schemas['Controller']
export type Design = Schemas['Design']
export type DesignPage = Schemas['DesignPage']
export type DesignSummary = Schemas['DesignSummary']
export type Figure = Schemas['Figure']
export type Finding = Schemas['Finding']
export type GeneratorChoice = Schemas['GeneratorChoice']
export type Kind = Schemas['Kind']
export type LastBackup = Schemas['LastBackup']
export type LibraryBattery = Schemas['LibraryBattery']
export type LibraryInverter = Schemas['LibraryInverter']
export type LibraryModule = Schemas['LibraryModule']
export type Load = Schemas['Load']
export type Known = NonNullable<Load['known']>
export type LoadEntry = Schemas['LoadEntry']
export type LoadPrices = Schemas['LoadPrices']
export type OutageEvent = Schemas['Event']
export type PanelArray = Schemas['Array']
export type PanelPreview = Schemas['PanelPreview']
export type PanelRow = Schemas['PanelRow']
export type PowerPath = Schemas['PowerPath']
export type PriceInHours = Schemas['PriceInHours']
export type RankedInverter = Schemas['RankedInverter']
export type Remedy = Schemas['Remedy']
export type Problem = Schemas['Problem']
export type ProblemField = Schemas['ProblemField']
export type RestState = Schemas['RestState']
export type Saved = Schemas['Saved']
export type Series = Schemas['Series']
export type SheetLine = Schemas['SheetLine']
export type SheetPreview = Schemas['SheetPreview']
export type SheetRow = Schemas['SheetRow']
export type Sky = Schemas['Sky']
export type SunYear = Schemas['SunYear']
export type SteadySum = Schemas['SteadySum']
export type SpeedTable = Schemas['SpeedTable']
export type StartKnown = NonNullable<Load['start_known']>
export type StoredDesign = Schemas['StoredDesign']
export type Tier = Schemas['Tier']
export type Town = Schemas['Town']
export type TransferReport = Schemas['TransferReport']
export type CarriedCell = Schemas['CarriedCell']
export type Failure = Schemas['Failure']
export type Failures = Schemas['Failures']
export type OneMore = Schemas['OneMore']
export type OneMoreOfEach = Schemas['OneMoreOfEach']
export type Proof = Schemas['Proof']
export type RationPlan = Schemas['RationPlan']
export type RationedLoad = Schemas['RationedLoad']
export type KitPlan = Schemas['KitsPlanned']
export type KitRanges = Schemas['KitRanges']
export type KitReport = Schemas['KitReport']
export type KitSearch = Schemas['KitSearch']
export type KitSearchFound = Schemas['KitSearchFound']
export type RatedKit = Schemas['RatedKit']
export type Indices = Schemas['Indices']
export type OutagePreview = Schemas['OutagePreview']
export type Reliability = Schemas['Reliability']
export type Reach = Schemas['Reach']
export type SmallStrip = Schemas['SmallStrip']
export type Trials = Schemas['Trials']
export type WholeYear = Schemas['WholeYear']
export type StartOffered = Schemas['StartOffered']
export type LongTrialAnswer = Schemas['LongTrial']
export type TrialJob = Schemas['TrialJob']
export type TrialFound = Schemas['TrialFound']
export type PaperKind = Schemas['PaperKind']
export type PaperRun = Schemas['PaperRun']
export type Have = Schemas['Have']
export type KitColumn = Schemas['KitColumn']
export type KitShare = Schemas['KitShare']
export type Opinion = Schemas['Opinion']
export type OpinionLine = Schemas['OpinionLine']
export type PartKey = Schemas['PartKey']
export type Variant = Schemas['Variant']
export type VariantColumn = Schemas['VariantColumn']
export type VariantYear = Schemas['VariantYear']
export type Worth = Schemas['Worth']
export type GrowthReport = Schemas['GrowthReport']
export type GrowthStage = Schemas['GrowthStage']
export type LaidStrip = Schemas['LaidStrip']
export type StageColumn = Schemas['StageColumn']
export type WorstStart = Schemas['WorstStart']
export type TypicalLoad = Schemas['TypicalLoad']
export type UsualStorm = Schemas['UsualStorm']
export type OneLine = Schemas['OneLine']
export type OneLineSymbol = Schemas['Symbol']
export type OneLineText = Schemas['Text']
export type BoardPart = Schemas['BoardPart']
export type RunRow = Schemas['RunRow']
export type DistributionBlock = Schemas['DistributionBlock']
export type RunSet = Schemas['RunSet']
export type VoltsCase = Schemas['VoltsCase']
export type WiringSheet = Schemas['WiringSheet']
export type WeatherInfo = Schemas['WeatherInfo']
export type Ask = Schemas['Ask']
export type BuildMoment = Schemas['Moment']
export type BuildSheet = Schemas['BuildSheet']
export type CapacityResult = Schemas['CapacityResult']
export type Correction = Schemas['Correction']
export type CrossReading = Schemas['CrossReading']
export type DrawdownResult = Schemas['DrawdownResult']
export type GateSheet = Schemas['GateSheet']
export type GateSigning = Schemas['Signing']
export type Installation = Schemas['Installation']
export type KeptEntry = Schemas['KeptEntry']
export type LoadStep = Schemas['LoadStep']
export type LoadTest = Schemas['LoadTest']
export type Unexplained = Schemas['Unexplained']
export type WattPair = Schemas['WattPair']
export type Calibration = Schemas['Calibration']
export type LogAdded = Schemas['LogAdded']
export type LogOutlook = Schemas['LogOutlook']
export type LogPreview = Schemas['LogPreview']
export type PlotSeries = Schemas['PlotSeries']
export type Quantity = Schemas['Quantity']
export type QuantityInfo = Schemas['QuantityInfo']
export type Replay = Schemas['Replay']
export type DrillAccount = Schemas['DrillAccount']
export type DrillDecision = Schemas['DrillDecision']
export type DrillNews = Schemas['DrillNews']
export type DrillScenario = Schemas['Scenario']
export type DrillStand = Schemas['DrillStand']
export type FamilyCard = Schemas['FamilyCard']
export type Instruction = Schemas['Instruction']
export type LiveAlarm = Schemas['LiveAlarm']
export type NowShown = Schemas['NowShown']
export type TierLeft = Schemas['TierLeft']
export type WatchTask = Schemas['WatchTask']
export type WatchView = Schemas['WatchView']
export type DeviceShown = Schemas['DeviceShown']
export type DeviceSource = Schemas['DeviceSource']
export type DevicesNow = Schemas['DevicesNow']
export type FaultKind = Schemas['FaultKind']
export type Sources = Schemas['Sources']
export type StandInsNow = Schemas['StandInsNow']
export type HouseWish = Schemas['HouseWish']
export type SwitchState = Schemas['SwitchState']
export type SeriesKept = Schemas['SeriesKept']

/** What a call came to: an answer, a refusal in words, or silence from the server. */
export type Outcome<T> =
  { kind: 'answer'; value: T; headers: Headers } | { kind: 'refused'; problem: Problem } | { kind: 'silent' }

/** Turn the client's result into one of three outcomes; a proxy's or crashed server's page counts as silence. */
export async function outcome<T>(
  call: Promise<{ data?: T | undefined; error?: unknown; response: Response }>,
): Promise<Outcome<T>> {
  try {
    const { data, error, response } = await call
    if (response.ok) return { kind: 'answer', value: data as T, headers: response.headers }
    const problem = error as Problem | undefined
    if (response.status >= 500 || problem?.type === undefined) return { kind: 'silent' }
    return { kind: 'refused', problem }
  } catch {
    return { kind: 'silent' }
  }
}

export const SILENT = 'Hearth Keep is not answering.'

/** A refusal for a screen: why, and what can be done. */
export function refusal(problem: Problem): string {
  return `${problem.detail} ${problem.fix}`
}

/** A sheet on its way in: copied text, or a workbook. */
export interface SheetSource {
  text?: string
  workbook_base64?: string
}
