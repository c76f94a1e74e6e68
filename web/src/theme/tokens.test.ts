import { readdirSync, readFileSync } from 'node:fs'
import { expect, it } from 'vitest'

// Font sizes and spaces are those of tokens.css: a pixel size of its own is a size that no other part has. Hairlines are no spaces, and
// drawings have units of their own (vite.config.ts).
const DECLARED =
  /(?<![\w-])(?:font|font-size|(?:row-|column-)?gap|(?:margin|padding|scroll-padding)(?:-[a-z]+)*):[^;{}]*/g
const files = readdirSync('src', { recursive: true, encoding: 'utf8' }).filter(
  (file) => /\.(vue|css)$/.test(file) && !file.endsWith('tokens.css') && !/^marks\/(?!Figure)/.test(file),
)

it('is the only place of font sizes and spaces', () => {
  expect(files.length).toBeGreaterThan(100)
  const isSized = (declared: string) =>
    [...declared.matchAll(/[\d.]+(?=px)/g)].some(([size]) => Number(size) >= 2)
  const own = files.flatMap((file) =>
    [...readFileSync(`src/${file}`, 'utf8').matchAll(DECLARED)]
      .filter(([declared]) => isSized(declared))
      .map(([declared]) => `${file}: ${declared}`),
  )
  // The reading of the scale grows with the screen.
  expect(own).toEqual(['steps/weigh/ReadingCard.vue: font-size: clamp(76px, 22vw, 150px)'])
})
