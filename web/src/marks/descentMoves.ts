import { computed, ref, type Ref } from 'vue'
import type { Descended, useDescentLayout } from './descent'

/** What is done to the descent by pointer and keys: its two lines are moved, and its path is walked down. */

type View = ReturnType<typeof useDescentLayout>['view']
type PlaceOf = (event: PointerEvent) => { x: number; y: number }
type Line = 'target' | 'budget'
interface Moved {
  /** A line is on its way there. */
  drag: (to: { target?: number; budget?: number }) => void
  /** It stays. */
  drop: () => void
  /** It goes back. */
  cancel: () => void
}

/** How far a press may go before it is a drag. */
const NEAR = 4

/** By which keys a line goes where there is more. */
const MORE: Record<string, number> = {
  ArrowUp: 1,
  ArrowRight: 1,
  ArrowDown: -1,
  ArrowLeft: -1,
  PageUp: 10,
  PageDown: -10,
}
/** And by which the path is walked down. */
const DOWNHILL: Record<string, number> = {
  ArrowDown: 1,
  ArrowRight: 1,
  ArrowUp: -1,
  ArrowLeft: -1,
  PageDown: 10,
  PageUp: -10,
}

function handled(event: KeyboardEvent) {
  event.preventDefault()
  event.stopPropagation()
}

/** The target's and the budget's line. They stop at what people ask for: hundredths of the unit, whole money. */
export function useDescentLines(props: Readonly<Descended>, view: View, placeOf: PlaceOf, moved: Moved) {
  const dragging = ref<Line | null>(null)
  /** Where a drag began, until it has gone a little: a press moves nothing. */
  let pressed: { x: number; y: number } | null = null

  function start(line: Line, event: PointerEvent) {
    dragging.value = line
    pressed = { x: event.clientX, y: event.clientY }
    ;(event.currentTarget as Element).setPointerCapture(event.pointerId)
  }

  function move(event: PointerEvent) {
    if (pressed && Math.hypot(event.clientX - pressed.x, event.clientY - pressed.y) < NEAR) return
    pressed = null
    const { x, y } = placeOf(event)
    if (dragging.value === 'target') {
      const mg = Math.max(0, view.value.mgAt(y))
      moved.drag({ target: Math.round(mg / (props.unitMg / 100)) * Math.round(props.unitMg / 100) })
    } else {
      const minor = Math.max(0, view.value.minorAt(x))
      moved.drag({ budget: Math.round(minor / props.minorPerMajor) * props.minorPerMajor })
    }
  }

  function end() {
    if (!dragging.value) return
    dragging.value = null
    if (pressed === null) moved.drop()
    pressed = null
  }

  /** Moves a line by keys; Home and End go to where it can stand, Enter keeps it, Esc puts it back. */
  function nudge(line: Line, event: KeyboardEvent) {
    if (event.key === 'Enter' || event.key === 'Escape') {
      handled(event)
      return event.key === 'Enter' ? moved.drop() : moved.cancel()
    }
    const by = (MORE[event.key] ?? 0) * (event.shiftKey ? 10 : 1)
    const most = Math.round(view.value.most[line === 'target' ? 'mass' : 'money'])
    const end = { Home: 0, End: most }[event.key]
    if (by === 0 && end === undefined) return
    handled(event)
    const step = line === 'target' ? Math.round(props.unitMg / 100) : props.minorPerMajor
    const now = line === 'target' ? (props.target ?? props.now) : (props.budget ?? 0)
    moved.drag({ [line]: end ?? Math.min(most, Math.max(0, now + by * step)) })
  }

  return { dragging, start, move, end, nudge }
}

/** The point of the path that is walked to. */
export function useDescentWalk(
  props: Readonly<Descended>,
  walked: Ref<number | null>,
  view: View,
  placeOf: PlaceOf,
  moved: Moved,
) {
  const walkedAt = computed(() => (walked.value === null ? null : (props.points[walked.value] ?? null)))
  /** Where the plan stands among the points. */
  const planAt = computed(() =>
    Math.max(
      0,
      props.points.findIndex((point) => point.net === props.plan?.net && point.base === props.plan.base),
    ),
  )

  /** Goes to the point nearest to the pointer, if one is near. */
  function walkTo(event: PointerEvent) {
    const { x, y } = placeOf(event)
    let [nearest, least] = [null as number | null, 40]
    props.points.forEach((point, at) => {
      const distance = Math.hypot(view.value.x(point.net) - x, view.value.y(point.base) - y)
      if (point.net <= view.value.right && distance < least) [nearest, least] = [at, distance]
    })
    walked.value = nearest
  }

  /** Goes from point to point by keys. Enter puts the target there, then keeps it; Esc puts it back. */
  function walk(event: KeyboardEvent) {
    const last = props.points.length - 1
    if (event.key === 'Enter' && walkedAt.value) {
      // In hundredths of the unit, as everywhere, and no lighter than the point.
      const step = props.unitMg / 100
      const target = Math.round(Math.ceil(walkedAt.value.base / step) * step)
      if (target === props.target) moved.drop()
      else moved.drag({ target })
    } else if (event.key === 'Escape') {
      walked.value = null
      moved.cancel()
    } else {
      const by = DOWNHILL[event.key]
      const end = { Home: 0, End: last }[event.key]
      if (by === undefined && end === undefined) return
      walked.value = end ?? Math.min(last, Math.max(0, (walked.value ?? planAt.value) + by!))
    }
    handled(event)
  }

  /** A finger that was lifted leaves its point standing. */
  function leave(event: PointerEvent) {
    if (event.pointerType === 'mouse') walked.value = null
  }

  return { walkedAt, planAt, walkTo, walk, leave }
}
