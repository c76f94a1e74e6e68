import { computed, ref } from 'vue'
import { api, unwrapChange, type Changed, type LinkDraft, type SheetLine, type Walker } from '@/api/client'
import { useChange, useUndo } from '@/api/changes'
import { withLock } from '@/api/lock'
import { useMessages } from '@/controls/messages'
import type { ListSheet } from './sheet'

/** What the one who carries a line can say of it. */
interface Move {
  line: string
  shared: boolean
  walker: string
}

/** How those who walk together, what each carries, and the links that open the list are changed. */
export function useTogether({ id, sheet, refetch }: Pick<ListSheet, 'id' | 'sheet' | 'refetch'>) {
  const undo = useUndo()
  const { done, failed } = useMessages()
  const list = computed(() => ({ id: id.value }))
  const walkers = computed(() => sheet.value?.walkers ?? [])
  const send = useChange((work: () => Promise<Changed<unknown>>) => work())

  /** One change after the other, each from what the one before has made of the list; throws what the server refuses. */
  const change = <T>(work: () => Promise<Changed<T>>, said: (value: T) => string) =>
    withLock(`together ${id.value}`, async () => {
      const changed = (await send.mutateAsync(work)) as Changed<T>
      await refetch({ cancelRefetch: false })
      done(said(changed.value), undo(changed))
      return changed.value
    })
  const newest = (line: string) => sheet.value?.lines.find((one) => one.id === line)
  const carry = (moves: () => Move[], said: () => string) =>
    change(() => {
      const body = { moves: moves().map((move) => ({ ...move, version: newest(move.line)!.version })) }
      return unwrapChange(api.POST('/api/lists/{id}/carry', { params: { path: list.value }, body }))
    }, said).catch(failed)

  /** What the most even split would move, and to whom. */
  const uneven = computed(() =>
    (sheet.value?.split?.moves ?? [])
      .map(({ line, walker }) => ({ line: sheet.value!.lines[line]!, to: walker }))
      .filter(({ line, to }) => line.walker !== to),
  )

  // The server draws the secret of a link, tells it once and keeps its digest: its address is known to this page alone.
  const addresses = ref<Record<string, string>>({})
  const makeLink = async (body: LinkDraft, said: string) => {
    const made = await change(
      () => unwrapChange(api.POST('/api/lists/{id}/links', { params: { path: list.value }, body })),
      () => said,
    )
    addresses.value = { ...addresses.value, [made.id]: `${location.origin}/shared/${made.secret}` }
  }

  return {
    walkers,
    uneven,
    addresses,
    add: (name: string) =>
      change(
        () =>
          unwrapChange(api.POST('/api/lists/{id}/walkers', { params: { path: list.value }, body: { name } })),
        (added) => `${added.name} walks along.`,
      ),
    /** Changes a walker; throws what the server refuses. */
    set: (walker: string, body: { name?: string; body?: string | null; shows_prices?: boolean }) =>
      change(
        () => {
          const version = walkers.value.find((one) => one.id === walker)?.version ?? 0
          const params = { path: { ...list.value, walker }, query: { version } }
          return unwrapChange(api.PATCH('/api/lists/{id}/walkers/{walker}', { params, body }))
        },
        (changed) => `${changed.name} is changed.`,
      ),
    takeOff: ({ id: walker }: Walker, said: string) =>
      change(
        () =>
          unwrapChange(
            api.DELETE('/api/lists/{id}/walkers/{walker}', { params: { path: { ...list.value, walker } } }),
          ),
        () => said,
      ).catch(failed),
    /** Gives a line to a walker; it is shared then. */
    give: ({ id: line, name }: SheetLine, to: Walker) =>
      carry(
        () => [{ line, shared: true, walker: to.id }],
        () => `${to.name} carries ${name}.`,
      ),
    /** Says of a line that it is shared, or that it is not any more. */
    share: ({ id: line, name }: SheetLine) =>
      carry(
        () => {
          const { shared, walker } = newest(line)!
          return [{ line, shared: !shared, walker: walkers.value[walker]!.id }]
        },
        () => `${name} is ${newest(line)?.shared ? 'shared' : 'not shared any more'}.`,
      ),
    splitEvenly: () =>
      carry(
        () =>
          uneven.value.map(({ line, to }) => ({
            line: line.id,
            shared: true,
            walker: walkers.value[to]!.id,
          })),
        () => 'Split as evenly as it goes.',
      ),
    makeLink,
    revoke: (link: string) =>
      change(
        () =>
          unwrapChange(
            api.DELETE('/api/lists/{id}/links/{link}', { params: { path: { ...list.value, link } } }),
          ),
        () => 'The link is revoked: it no longer works.',
      ).catch(failed),
  }
}

export type Together = ReturnType<typeof useTogether>
