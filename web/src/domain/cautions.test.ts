import { expect, it } from 'vitest'
import type { Caution, Sheet } from '@/api/client'
import { degrees, energyWithCharge, temperature, volume } from '@/quantities/measures'
import { remedyText, said, type Saying } from './cautions'

const sheet = {
  list: { trip: { low_tenth_c: -20 } },
  lines: [{ name: 'mummy bag' }, { name: 'silk liner' }],
  walkers: [{ name: 'Ilo' }],
} as unknown as Sheet
const saying: Saying = {
  measures: 'metric',
  total: (mg) => `${(mg / 1e6).toFixed(2)} kg`,
  jobs: new Map([['first_aid', { name: 'first aid', unit: 'count' }]]),
  sheet,
}
const caution = (some: Partial<Caution>) =>
  ({ of: [], remedies: [], level: 'amber', assumed: false, ...some }) as unknown as Caution

it('says the figure, what it is held against, and what would quiet it', () => {
  const cold = caution({
    id: 'cold_night',
    level: 'red',
    found: 60,
    against: -20,
    short: 80,
    limit: 5,
    of: [0, 1],
  })
  expect(said(cold, saying)).toEqual({
    title: 'Cold night: 8 °C short',
    text: 'Low −2 °C. mummy bag with silk liner: comfort 6 °C, limit 0.5 °C.',
  })
  const liner = { name: 'vapour liner', gear: 'g', found: 30, gain: 30, quiets: false, unit_mg: 1 }
  expect(remedyText(cold, liner, saying)).toBe('vapour liner adds 3 °C')
  const ground = caution({ id: 'cold_ground', found: 31, against: 45, short: 14, of: [1] })
  expect(said(ground, saying).text).toBe('Low −2 °C asks for R 4.5; silk liner has R 3.1.')
  expect(remedyText(ground, { ...liner, gear: null, name: 'air pad', found: 73 }, saying)).toBe(
    'air pad (a candidate) brings R to 7.3',
  )
  expect(said(caution({ id: 'essentials', level: 'red', job: 'first_aid', short: 1 }), saying).title).toBe(
    'Missing: first aid',
  )
  const lacking = ['first_aid', 'food'].map((job) => caution({ id: 'shared_gear', job, found: 0 }))
  const told = { ...sheet, trip: { cautions: [...lacking, caution({ id: 'rules' })] } } as unknown as Sheet
  expect(said(lacking[0]!, { ...saying, sheet: told }).title).toBe('Ilo alone would lack first aid and food')
  const all = [
    'cold_back',
    'dry_stretch',
    'water_treatment',
    'freezing',
    'load',
    'body_load',
    'room',
    'animals',
    'snow',
    'flame',
    'made_gear',
    'untested',
    'medical',
    'rules',
  ] as const
  for (const id of all) {
    const { title, text } = said(caution({ id, found: 1, against: 2, short: 1, limit: 1, of: [0] }), saying)
    expect(`${title} ${text}`).not.toMatch(/undefined|null|NaN|_|\bsafe\b/)
  }
})

it('writes temperatures, volumes and charge as walkers do', () => {
  expect([temperature(-20, 'metric'), temperature(-20, 'imperial'), degrees(30, 'imperial')]).toEqual([
    '−2 °C',
    '28 °F',
    '5 °F',
  ])
  expect([volume(1_500, 'metric'), volume(946, 'imperial'), energyWithCharge(37_000)]).toEqual([
    '1.5 l',
    '32 fl oz',
    '37 Wh (10\u202f000 mAh)',
  ])
})

it('says which caution an assumed figure keeps away, and how much would be short without it', () => {
  const assumed = (short: number | null) =>
    said(caution({ id: 'assumed', job: 'water_carried', level: 'note', found: 1_000, short, of: [0] }), {
      ...saying,
      jobs: new Map([['water_carried', { name: 'water carried', unit: 'ml' }]]) as never,
    }).text
  expect(assumed(null)).toContain('Cautions count on it.')
  expect(assumed(500)).toContain(
    'Without it water carried 0.5 l would be short: only this figure keeps that caution away.',
  )
})
