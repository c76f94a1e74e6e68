import createClient from 'openapi-fetch'
import { markOffline, markOnline } from './network'
import { isToSend, newKey, wait, waiting } from './outbox'
import { signInAgain } from './session'
import type { components, paths } from './schema'

type Schemas = components['schemas']
export type Account = Schemas['AccountOut']
export type Gear = Schemas['Gear']
export type GearChange = Schemas['GearIn']
export type Job = Schemas['JobOut']
export type JobAmounts = Schemas['JobAmounts']
export type ListLine = Schemas['ListLine']
export type FullList = Schemas['FullList']
export type PackList = Schemas['PackList']
export type NearMisses = Schemas['NearMisses']
/** A plan, with its near misses and what it costs to meet more as soon as they are there. */
export type PlanAnswer = Schemas['PlanAnswer'] &
  Pick<Schemas['NearMisses'], 'near_misses' | 'meet_costs' | 'sure'>
export type Sheet = Schemas['Sheet']
export type SheetLine = Schemas['SheetLine']
export type SharedSheet = Schemas['SharedSheet']
export type Caution = Schemas['Caution']
export type Walker = Schemas['Walker']
export type AccountChange = Schemas['PreferencesIn']
export type ListChange = Schemas['ListIn']
export type LinkDraft = Schemas['LinkIn']
export type Trip = Schemas['Trip']
export type TripSheet = Schemas['TripSheet']
export type Figure = Schemas['Figure']
export type Way = Schemas['Way']
export type Facts = Schemas['Facts']
export type FactsDraft = Schemas['FactsIn']
export type Ranked = Schemas['Ranked']
export type After = Schemas['After']
export type Offer = Schemas['Offer']
export type Followed = Schemas['Followed']
export type Proposed = Schemas['Proposal']
export type LoadedPack = Schemas['LoadedPack']
export type Packing = Schemas['Packing']
export type PackedThing = Schemas['PackedThing']
export type Zone = Schemas['Zone']
export type PackZone = Schemas['PackZone']
export type PackingNotes = Schemas['PackingNotes']
export type Noted = Schemas['Noted']
export type Lessons = Schemas['Lessons']
export type ThingLesson = Schemas['ThingLesson']
export type WalkedTrip = Schemas['WalkedTrip']
export type TripLine = Schemas['TripLine']
export type TripThing = Schemas['TripThing']
export type TripChange = Schemas['TripIn']
/** What is said of a thing of a trip; what is left out stays. */
export type TripSaid = Omit<Schemas['SaidIn'], 'marks' | 'note'> & {
  marks?: { [mark in Mark]?: boolean }
  note?: string
}
export type Mark = Schemas['Mark']
export type Cause = Schemas['Cause']
export type RefusedFigure = Schemas['RefusedFigure']
export type Unavailable = Schemas['Unavailable']
export type ProposalWhy = Schemas['ProposalWhy']
export type Entry = Schemas['Entry']
export type Event = Schemas['Event']
export type ThingField = Schemas['ThingField']
export type ListField = Schemas['ListField']
export type BaseHistory = Schemas['BaseHistory']
export type Reconciled = Schemas['Reconciled']
export type KeptPlan = Schemas['KeptPlan']
export type Counting = Schemas['Counting']
export type TargetOf = Schemas['TargetOf']
export type RankBy = Schemas['RankBy']
export type Completion = Schemas['CompletionIn']
export type Fate = Schemas['Fate']
export type Choice = Schemas['Choice']
export type FrontierPoint = Schemas['FrontierPoint']
export type Swap = Schemas['Swap']
export type SwapDraft = Schemas['SwapIn']
export type SwapKind = Schemas['SwapKind']
export type Place = Schemas['Place']
export type SwapState = Schemas['SwapState']
export type Source = Schemas['WeightSource']
export type Chip = Schemas['ChipOut']
export type LineKind = Schemas['LineKind']
export type Lighter = Schemas['Lighter']
export type SwapLine = Schemas['SwapLineOut']
export type Vocabulary = Schemas['VocabularyOut']
export type WeighPage = Schemas['WeighOut']
export type Queued = Schemas['QueuedOut']
export type Taken = Schemas['TakenOut']
export type Trust = Schemas['TrustOut']
export type Makers = Schemas['MakersOut']
export type Weighing = Schemas['Weighing']
export type Outfits = Schemas['Outfits']
export type Year = Schemas['Year']
export type Kit = Schemas['Kit']
export type KitDraft = Schemas['KitIn']
export type ScaleReading = Schemas['ScaleOut']
export type Change = Schemas['Change']
export type About = Schemas['About']
export type BulkChange = Schemas['BulkIn']
export type GearStatus = Schemas['Status']
export type Acquired = Schemas['Acquired']
export type FilePreview = Schemas['PreviewOut']
export type FileHow = Schemas['HowIn']
export type Session = Schemas['SessionOut']
export type AccountSettings = Schemas['Settings']

/** An error that the server explained, or one that kept it from answering. */
export class Problem extends Error {
  constructor(
    readonly status: number,
    readonly code: string,
    detail: string,
    readonly field?: string,
    /** What was refused, where it is a quantity. */
    readonly figure?: RefusedFigure,
  ) {
    super(detail)
  }
}

/** How often a request is sent before its failure is shown, and the wait before the second time; each wait after it is longer. */
const TRIES = 3
const FIRST_WAIT_MS = 300

/** Where somebody who is not signed in may ask: an answer of 401 there says that the password is wrong, or that nobody is. */
const AT_THE_DOOR = ['/api/account', '/api/session', '/api/session/demo', '/api/account/password']

/**
 * Sends a request. One that changes something is named, so that it can be sent again without being done twice: where the
 * connection broke, or the server could not answer or does not know how it came out. Where the session has ended, the password is asked
 * for and the request goes on.
 */
export async function send(request: Request): Promise<Response> {
  const what = request.headers.get(WAITS)
  if (what === null) return answered(request)
  request.headers.delete(WAITS)
  request.headers.set('Idempotency-Key', newKey())
  // What is done after something that waits does not overtake it.
  if (!waiting.value.some(isToSend))
    try {
      return await answered(request)
    } catch (error) {
      if (isOwnDoing(error)) throw error
    }
  await wait(request, decodeURIComponent(what))
  return new Response(null, { status: 204, headers: { [WAITS]: '1' } })
}

/** Names a change that may wait for the network, by what it does. */
const WAITS = 'Kevyt-Waits'
/** Headers of a request that waits where there is no network. */
export const orLater = (what: string) => ({ headers: { [WAITS]: encodeURIComponent(what) } })

async function answered(request: Request): Promise<Response> {
  const response = await tried(request)
  const door = AT_THE_DOOR.includes(new URL(request.url).pathname)
  if (response.status !== 401 || door || !(await signInAgain())) return response
  return tried(request)
}

/** What the page itself gave up says nothing of the network. */
const isOwnDoing = (error: unknown) => error instanceof DOMException && error.name === 'AbortError'

/** One request: whether anybody answers is noted. */
async function once(request: Request): Promise<Response> {
  try {
    const response = await fetch(request.clone())
    markOnline()
    return response
  } catch (error) {
    if (!isOwnDoing(error)) markOffline()
    throw error
  }
}

async function tried(request: Request): Promise<Response> {
  if (request.method === 'GET') return once(request)
  if (!request.headers.has('Idempotency-Key')) request.headers.set('Idempotency-Key', newKey())
  for (let tries = 1; ; tries++) {
    try {
      const response = await once(request)
      if (response.status !== 503 || tries === TRIES) return response
    } catch (error) {
      if (tries === TRIES) throw error
    }
    await new Promise((resolve) => setTimeout(resolve, FIRST_WAIT_MS * tries))
  }
}

export const api = createClient<paths>({ baseUrl: window.location.origin, fetch: send })

/** A value and the change that was made for it, to undo it by. */
export interface Changed<T> {
  value: T
  change: string | null
  /** Whether it waits for the network; the value is what stands meanwhile. */
  waits?: boolean
}

type Answer<T> = { data?: T; error?: unknown; response: Response }

/** As [`take`], with the change that the request made. Where it waits for the network, the value is `meanwhile`. */
export async function unwrapChange<T>(asked: Promise<Answer<T>>, meanwhile?: T): Promise<Changed<T>> {
  let change: string | null = null
  let waits = false
  const value = await unwrap(
    asked.then((answer) => {
      change = answer.response.headers.get('Kevyt-Change')
      waits = answer.response.headers.has(WAITS)
      return answer
    }),
  )
  return waits ? { value: meanwhile as T, change, waits } : { value, change }
}

/** The value of an answer, or a thrown [`Problem`]: the one place where answers are told from errors. */
export async function unwrap<T>(asked: Promise<Answer<T>>): Promise<T> {
  let answer: Answer<T>
  try {
    answer = await asked
  } catch {
    throw new Problem(
      0,
      'unreachable',
      "Can't reach the server. What you typed is kept: try again in a moment.",
    )
  }
  if (answer.response.ok) return answer.data as T
  const { status } = answer.response
  const problem = answer.error as Partial<Schemas['Problem']> | undefined
  if (typeof problem?.detail === 'string' && typeof problem.code === 'string') {
    const named = problem.request ? ` (Request ${problem.request}.)` : ''
    const { code, detail, field, figure } = problem
    throw new Problem(status, code, detail + named, field ?? undefined, figure ?? undefined)
  }
  throw new Problem(
    status,
    'unexpected',
    `The server answered ${status} in a way that can't be read. Try again in a moment.`,
  )
}
