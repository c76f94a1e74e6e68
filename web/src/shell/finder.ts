/** Something that can be found: what it is called, what it is, where it leads. */
export interface Findable {
  name: string
  /** What sort of thing it is. */
  sort: string
  /** Words beside its name that it is found by. */
  words?: string
  go: () => void
}

const plain = (text: string) => text.normalize('NFD').replace(/\p{M}/gu, '').toLowerCase()

/** All that can be found, its names read once: thousands are looked through at every letter. */
export const indexed = (all: Findable[]) =>
  all.map((one) => {
    const title = plain(one.name)
    return { one, title, text: one.words ? `${title} ${plain(one.words)}` : title }
  })

/** What has all words that are typed, those whose name begins with them first; as they stand where nothing is typed. */
export function found(all: ReturnType<typeof indexed>, typed: string, most: number): Findable[] {
  const words = plain(typed).split(/\s+/).filter(Boolean)
  const ranks: Findable[][] = [[], [], []]
  for (const { one, title, text } of all) {
    if (!words.every((word) => text.includes(word))) continue
    const rank = title.startsWith(words.join(' ')) ? 0 : words.every((word) => title.includes(word)) ? 1 : 2
    ranks[rank]!.push(one)
  }
  return ranks.flat().slice(0, most)
}
