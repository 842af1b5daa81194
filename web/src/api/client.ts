// The one way to the server: a client typed by its OpenAPI document.
import createClient from 'openapi-fetch'
import { KEPT_AT } from '@/offline/kept'
import { lastKnown } from '@/offline/lastKnown'
import type { components, paths } from './schema'

export const api = createClient<paths>({ baseUrl: '', fetch: lastKnown })

const WINDOW_KEY = 'zinc-kite-window'
const newName = () => Math.random().toString(36).slice(2)

/** This window's own name, by which it tells its own changes from another's. It lasts as long as the window. */
export let WINDOW = sessionStorage.getItem(WINDOW_KEY) ?? newName()
sessionStorage.setItem(WINDOW_KEY, WINDOW)

/** How long a page that this one follows in its window may take to let go of the name. */
const LETTING_GO_MS = 400

/** A window that was made as another's copy begins with its name: whoever finds it in use takes a new one. */
async function keepName(patient: boolean): Promise<void> {
  // Known only where the connection is safe.
  const locks = navigator.locks as LockManager | undefined
  const taken = await locks?.request(`${WINDOW_KEY}-${WINDOW}`, { ifAvailable: true }, (lock) => {
    if (!lock) return true
    // Held as long as the page is there.
    void locks.request(`${WINDOW_KEY}-${WINDOW}`, () => new Promise<never>(() => undefined))
    return false
  })
  if (!taken) return
  if (patient) {
    await new Promise((resolve) => setTimeout(resolve, LETTING_GO_MS))
    return keepName(false)
  }
  WINDOW = newName()
  sessionStorage.setItem(WINDOW_KEY, WINDOW)
}
void keepName(true)

/** Told of every answer, and when none comes. */
let reached: { answered: () => void; failed: () => void; kept: (at: string) => void } | undefined
export const onReach = (listener: NonNullable<typeof reached>) => (reached = listener)

/** Told when the server wants its password. */
let loggedOut: () => void = () => undefined
export const onLoggedOut = (listener: () => void) => (loggedOut = listener)

api.use({
  onRequest: ({ request }) => {
    request.headers.set('zinc-window', WINDOW)
    return request
  },
  onResponse: ({ response, schemaPath }) => {
    const at = response.headers.get(KEPT_AT)
    if (at === null) reached?.answered()
    else reached?.kept(at)
    if (response.status === 401 && schemaPath !== '/api/session') loggedOut()
  },
  onError: ({ error }) => {
    if (!(error instanceof DOMException && error.name === 'AbortError')) reached?.failed()
  },
})

type Schemas = components['schemas']
export type Analysis = Schemas['Analysis']
export type Backup = Schemas['Backup']
export type Bag = Schemas['Tagged_Bag']
export type BagSpec = Schemas['BagSpec']
export type Board = Schemas['Board']
export type Ghost = Schemas['Ghost']
export type Ghosts = Schemas['Ghosts']
export type Preview = Schemas['Preview']
export type Change = Schemas['Change']
export type ChanceSheet = Schemas['ChanceSheet']
export type Comparison = Schemas['Comparison']
export type Conditions = Schemas['Conditions']
export type Disc = Schemas['Disc']
export type DiscSpec = Schemas['DiscSpec']
export type DiscChange = Schemas['DiscChange']
export type DiscUse = Schemas['Use']
export type Entry = Schemas['Entry']
export type Evidence = Schemas['Evidence']
export type Finding = Schemas['Finding']
export type Gate = Schemas['Gate']
export type Ground = Schemas['Ground']
export type ImportReport = Schemas['ImportReport']
export type Ladder = Schemas['Ladder']
export type Lane = Schemas['Lane']
export type Line = Schemas['Tagged_Line']
export type LineSpec = Schemas['LineSpec']
export type Thing = Schemas['Thing']
export type Rise = Schemas['Rise']
export type LineVerdict = Schemas['LineVerdict']
export type Mould = Schemas['Tagged_LibraryMould']
export type MouldSpec = Schemas['MouldSpec']
export type Moves = Schemas['Moves']
export type Numbers = Schemas['Numbers']
export type PlasticFacts = Schemas['PlasticFacts']
export type Holds = Schemas['Holds']
export type Player = Schemas['Player']
export type PlayerSheet = Schemas['Tagged_PlayerSheet']
export type Point = Schemas['Point']
export type PowerFlight = Schemas['PowerFlight']
export type Puck = Schemas['Puck']
export type RangeFlight = Schemas['RangeFlight']
export type RangeRequest = Schemas['RangeRequest']
export type RangeThrow = Schemas['RangeThrow']
export type Setting = Schemas['Setting']
export type Vary = Schemas['Vary']
export type SeasonLine = Schemas['SeasonLine']
export type SeasonVerdict = Schemas['SeasonVerdict']
export type Sheet = Schemas['DiscSheet']
export type ShelfDisc = Schemas['Tagged_ShelfDisc']
export type Outlook = Schemas['Outlook']
export type Family = Schemas['Family']
export type IfLost = Schemas['IfLost']
export type YearTask = Schemas['Task']
export type Suppose = Schemas['Suppose']
export type Course = Schemas['Tagged_ShownCourse']
export type CourseSpec = Schemas['CourseSpec']
export type CourseHole = Schemas['CourseHole']
export type CourseWay = Schemas['Way']
export type CourseDay = Schemas['CourseDay']
export type ForecastHour = Schemas['ForecastHour']
export type RoundCard = Schemas['RoundCard']
export type HoleOnCard = Schemas['HoleCard']
export type HoleThrow = Schemas['HoleThrow']
export type LeftFrom = Schemas['LeftFrom']
export type CourseReport = Schemas['CourseReport']
export type Traced = Schemas['Traced']
export type RangeReading = Schemas['Reading']
export type ShownRound = Schemas['Tagged_ShownRound']
export type PlayedHole = Schemas['PlayedHole']
export type PickedDisc = Schemas['PickedDisc']
export type CameOf = Schemas['CameOf']
export type Account = Schemas['Account']
export type OverRounds = Schemas['OverRounds']
export type FieldSession = Schemas['FieldSession']
export type FieldThrow = Schemas['FieldThrow']
export type KeptSession = Schemas['KeptSession']
export type KeptThrow = Schemas['KeptThrow']
export type SessionEntry = Schemas['SessionEntry']
export type ShownSession = Schemas['Tagged_ShownSession']
export type DiscSpread = Schemas['DiscSpread']
export type DayDistance = Schemas['DayDistance']
export type Meant = Schemas['Meant']
export type ThrowsReport = Schemas['ThrowsReport']
export type FoundNumber = Schemas['FoundNumber']
export type FoundOfArm = Schemas['FoundOfArm']
export type MeasuredDistance = Schemas['MeasuredDistance']
export type ErrorKind = Schemas['ErrorKind']
export type ErrorPrice = Schemas['ErrorPrice']
export type MonthScatter = Schemas['MonthScatter']
export type SeenFlight = Schemas['SeenFlight']
export type ThrowReading = Schemas['ThrowReading']
export type Trial = Schemas['Trial']
export type TrialSet = Schemas['TrialSet']
export type TrialThrow = Schemas['TrialThrow']
export type TriedDisc = Schemas['TriedDisc']
export type ChanceBin = Schemas['ChanceBin']
export type ThrowTag = Schemas['ThrowTag']
export type InstrumentsHeard = Schemas['InstrumentsHeard']
export type LevelShot = NonNullable<NonNullable<InstrumentsHeard['rangefinder']>['reading']>
export type HandWind = NonNullable<NonNullable<InstrumentsHeard['wind_meter']>['reading']>
export type Cover = Schemas['Cover']
export type Packing = Schemas['Packing']
export type PlayMonth = Schemas['Month']
export type Wishes = Schemas['Wishes']
export type Proposal = Schemas['Proposal']
export type Curve = Schemas['Curve']
export type CurvePoint = Schemas['CurvePoint']
export type WishPrice = Schemas['WishPrice']
export type Ties = Schemas['Ties']
export type SchoolBag = Schemas['SchoolBag']
export type Specification = Schemas['Specification']
export type LineDifference = Schemas['LineDifference']
export type Progress = Schemas['Progress']
export type Scatter = Schemas['Scatter']
export type Standing = Schemas['Standing']
export type Slot = Schemas['Slot']
export type SlotState = Schemas['SlotState']
export type Style = Schemas['Style']
export type Units = Schemas['Units']
export type WeatherKind = Schemas['WeatherKind']
export type Walk = Schemas['Walk']
export type WalkLane = Schemas['WalkLane']
export type WalkStep = Schemas['WalkStep']
export type Worth = Schemas['Worth']

/** The day as a query: what is not said is left out. */
export function asQuery({ temperature_c, altitude_m, ...rest }: Conditions) {
  return { ...rest, temperature_c: temperature_c ?? undefined, altitude_m: altitude_m ?? undefined }
}

/** A thing as it is now, where a change was made from another version. */
export type Now = { etag: string } & Record<string, unknown>

/** A request that the server refused or that never reached it, in words for the user. */
export class ProblemError extends Error {
  readonly field: string | undefined
  readonly now: Now | undefined
  /** What is wrong with a document, thing by thing. */
  readonly problems: readonly { at: string; words: string }[]
  /** The range that the field lies outside of, in the unit that its name ends with. */
  readonly range: Schemas['Range'] | undefined
  /** Whether the server never had the request. */
  readonly neverSent: boolean

  constructor(
    message: string,
    more: Partial<Pick<ProblemError, 'field' | 'now' | 'range' | 'problems' | 'neverSent'>> = {},
  ) {
    super(message)
    this.range = more.range
    this.neverSent = more.neverSent ?? false
    this.field = more.field
    this.now = more.now
    this.problems = more.problems ?? []
  }
}

/** Whatever was thrown, as a problem to show. */
export function asProblem(error: unknown): ProblemError {
  return error instanceof ProblemError ? error : new ProblemError(String(error))
}

const UNREACHABLE =
  'Zinc Kite does not answer. Check that the program is still running, then try again; nothing you typed is lost.'

/** The data of an answer, or a ProblemError that says what happened and what to do. */
export async function take<T>(
  request: Promise<{ data?: T; error?: Schemas['Problem']; response: Response }>,
): Promise<T> {
  let answer
  try {
    answer = await request
  } catch (cause) {
    if (cause instanceof DOMException && cause.name === 'AbortError') throw cause
    throw new ProblemError(UNREACHABLE, { neverSent: true })
  }
  if (answer.error !== undefined) {
    const { detail, field, now, range, problems } = answer.error
    throw new ProblemError(detail ?? answer.response.statusText, {
      field: field ?? undefined,
      range: range ?? undefined,
      problems: problems ?? undefined,
      now: (now as Now | null | undefined) ?? undefined,
    })
  }
  return answer.data as T
}
