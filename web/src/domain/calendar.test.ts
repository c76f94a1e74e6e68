import { describe, expect, it } from 'vitest'
import type { TripLine } from '@/api/client'
import { calendarOf } from './calendar'

const trip = (some: Partial<TripLine>) =>
  ({
    id: '7',
    name: 'Fell range',
    starts_on: '2027-09-04',
    nights: 3,
    people: '',
    note: '',
    ...some,
  }) as TripLine

describe('trips in a calendar', () => {
  const text = calendarOf(
    [trip({ people: 'Vesper' }), trip({ id: '8', starts_on: '2026-12-30', nights: 2 })],
    (one) => `https://kevyt.test/trips/${one.id}`,
  )
  const lines = text.replace(/\r\n /g, '').split('\r\n')
  it('are whole days, the last one too', () => {
    expect(lines).toContain('DTSTART;VALUE=DATE:20270904')
    // Three nights end on the 7th; a calendar's end is the day after.
    expect(lines).toContain('DTEND;VALUE=DATE:20270908')
    expect(lines).toContain('DTSTART;VALUE=DATE:20261230')
    expect(lines).toContain('DTEND;VALUE=DATE:20270102')
  })
  it('are known again when they are added once more', () => {
    expect(lines.filter((line) => line.startsWith('UID:'))).toEqual(['UID:7@kevyt', 'UID:8@kevyt'])
    expect(lines).toContain('SUMMARY:Fell range')
    expect(lines.find((line) => line.startsWith('DESCRIPTION:'))).toBe('DESCRIPTION:3 nights\\nwith Vesper')
  })
})
