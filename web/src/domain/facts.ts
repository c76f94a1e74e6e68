import type { Facts, FactsDraft } from '@/api/client'

/** What a trip asks of a thing, as it is typed. */
export type TypedFacts = Required<{ [field in keyof FactsDraft]: NonNullable<FactsDraft[field]> }>

export const RATINGS: Record<TypedFacts['rating_kind'], string> = {
  comfort: 'comfort',
  limit: 'limit',
  extreme: 'extreme',
  unknown: 'doesn’t say which',
}

/** Facts as they are typed: with their units, so that they come back as they were. */
export const typedFacts = (facts: Facts | null | undefined): TypedFacts => ({
  rating_kind: facts?.rating?.kind ?? 'unknown',
  rating: facts?.rating ? `${facts.rating.tenth_c / 10} C` : '',
  warms: facts?.warms_tenth_c != null ? `${facts.warms_tenth_c / 10} C` : '',
  contents: facts?.contents_mg != null ? `${facts.contents_mg / 1000} g` : '',
})
