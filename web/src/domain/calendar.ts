import ical, { ICalEventTransparency } from 'ical-generator'
import type { TripLine } from '@/api/client'
import { counted } from '@/quantities/count'

/** Trips as a calendar file (iCalendar, RFC 5545): whole days, the last day of each included. */
export function calendarOf(trips: TripLine[], at: (trip: TripLine) => string): string {
  const calendar = ical({ name: 'Trips', prodId: { company: 'Kevyt', product: 'Kevyt', language: 'EN' } })
  for (const trip of trips) {
    const first = new Date(`${trip.starts_on}T00:00:00Z`)
    // The first day that is not of the trip any more.
    const after = new Date(first)
    after.setUTCDate(first.getUTCDate() + trip.nights + 1)
    calendar.createEvent({
      id: `${trip.id}@kevyt`,
      start: first,
      end: after,
      allDay: true,
      summary: trip.name,
      description: [counted(trip.nights, 'night'), trip.people && `with ${trip.people}`, trip.note]
        .filter(Boolean)
        .join('\n'),
      url: at(trip),
      transparency: ICalEventTransparency.OPAQUE,
    })
  }
  return calendar.toString()
}
