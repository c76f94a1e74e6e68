/** Where something is drawn, in pixels. */
export interface Box {
  left: number
  right: number
  top: number
  bottom: number
}

const common = (one: Box, other: Box) =>
  Math.max(0, Math.min(one.right, other.right) - Math.max(one.left, other.left)) *
  Math.max(0, Math.min(one.bottom, other.bottom) - Math.max(one.top, other.top))

/** Of some places for a label, the first of those that cover least of what is drawn. */
export function freest(places: Box[], drawn: Box[]): Box {
  const covered = places.map((place) => drawn.reduce((sum, box) => sum + common(place, box), 0))
  return places[covered.indexOf(Math.min(...covered))]!
}
