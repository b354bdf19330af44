import createClient from 'openapi-fetch'
import { fetchToTheEnd } from './kept'
import type { components, paths } from './schema.gen'

export type Schemas = components['schemas']

/** How refusals are worded: in English, until a language is spoken. */
let inWords = ({ sentence }: Schemas['Words']) => sentence

export function refusalsIn(words: typeof inWords): void {
  inWords = words
}

/** A refusal as the server words it (RFC 9457), or what to say if it could not be reached. */
export class Refusal extends Error {
  constructor(
    readonly status: number,
    /** What is said, with its code where clients may be told. */
    readonly told: Schemas['Words'],
    /** The same by field of what was entered. */
    readonly toldOf: Record<string, Schemas['Words']> = {},
    readonly nearest: string[] = [],
    /** The stable name of the kind of problem. */
    readonly kind = '',
  ) {
    super(inWords(told))
  }

  /** What is wrong by field. */
  get fields(): Record<string, string> {
    return Object.fromEntries(Object.entries(this.toldOf).map(([field, words]) => [field, inWords(words)]))
  }
}

export const api = createClient<paths>({ baseUrl: '/api', fetch: send })

/** Who asks for the password once more, where somebody does; see Sure. */
let beSure: (() => Promise<boolean>) | null = null

/** Takes over asking for the password once more; the returned function ends that. */
export function askToBeSure(ask: () => Promise<boolean>): () => void {
  beSure = ask
  return () => {
    beSure = null
  }
}

/** Sends a request. If the password is wanted once more and entered, it is sent again. */
async function send(request: Request): Promise<Response> {
  const again = beSure ? request.clone() : null
  const response = await fetchToTheEnd(request)
  if (!again || response.status !== 403) return response
  const problem = await response
    .clone()
    .json()
    .catch(() => ({}))
  if (problem.type !== 'urn:corrim:problem:confirm-identity' || !(await beSure?.())) return response
  return fetchToTheEnd(again)
}

const away = {
  code: 'away',
  sentence: 'Corrim did not answer. Nothing you entered is lost: check your connection and try again.',
}

type Answer<T> = { data?: T; error?: unknown; response: Response }

/** Turns an answer of the client into its data, or throws a Refusal. */
export async function need<T>(asked: Promise<Answer<T>>): Promise<T> {
  let answer: Answer<T>
  try {
    answer = await asked
  } catch {
    throw new Refusal(0, away)
  }
  if (answer.response.ok && answer.data !== undefined) return answer.data
  const problem = (answer.error ?? {}) as Partial<Schemas['Problem']>
  const told = { code: problem.code, with: problem.with, sentence: problem.detail ?? away.sentence }
  throw new Refusal(answer.response.status, told, problem.fields, problem.nearest ?? [], problem.type)
}

/** Whatever was thrown, as a Refusal. */
export function refusalOf(error: unknown): Refusal {
  return error instanceof Refusal ? error : new Refusal(0, away)
}
