import { api, unwrapChange, type TripLine } from '@/api/client'
import { useChange, useUndo } from '@/api/changes'
import { useMessages } from '@/controls/messages'

/** Keeps the list of a trip as it is packed now. */
export function useKeepTrip() {
  const { done, failed } = useMessages()
  const undo = useUndo()
  const keep = useChange((trip: TripLine) =>
    unwrapChange(
      api.POST('/api/trips/{id}/keep', {
        params: { path: { id: trip.id }, query: { version: trip.version } },
      }),
    ),
  )
  return async (trip: TripLine) => {
    try {
      const { change } = await keep.mutateAsync(trip)
      done(`${trip.name} is kept as it is packed now. Look back on it under Trips.`, undo({ change }))
    } catch (error) {
      failed(error)
    }
  }
}
