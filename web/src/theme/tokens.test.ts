import { readdirSync, readFileSync } from 'node:fs'
import { expect, it } from 'vitest'

// Font sizes and spaces are those of tokens.css: a pixel size of its own is a size that no other part has. Hairlines are no spaces, and
// drawings have units of their own (vite.config.ts).
const SIZED = /(?<![\w-])(?:font|font-size|(?:margin|padding|gap)(?:-[a-z]+)*):[^;{}]*?(?<![\w.])([\d.]+)px/g
const files = readdirSync('src', { recursive: true, encoding: 'utf8' }).filter(
  (file) => /\.(vue|css)$/.test(file) && !file.endsWith('tokens.css') && !/^marks\/(?!Figure)/.test(file),
)

it('is the only place of font sizes and spaces', () => {
  expect(files.length).toBeGreaterThan(100)
  const own = files.flatMap((file) =>
    [...readFileSync(`src/${file}`, 'utf8').matchAll(SIZED)]
      .filter(([, size]) => Number(size) >= 2)
      .map(([text]) => `${file}: ${text}`),
  )
  // The reading of the scale grows with the screen.
  expect(own).toEqual(['steps/weigh/ReadingCard.vue: font-size: clamp(76px'])
})
