// Words that were retired from the screen do not come back: `node tools/words.mjs`. The list is tools/retired-words.tsv.
import { readdirSync, readFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { fileURLToPath } from 'node:url'

const root = join(dirname(fileURLToPath(import.meta.url)), '..')
const retired = readFileSync(join(root, 'tools/retired-words.tsv'), 'utf8')
  .split('\n')
  .filter((line) => line !== '' && !line.startsWith('#'))
  .map((line) => line.split('\t'))
  .map(([words, instead]) => ({ words: new RegExp(words), instead }))

const files = readdirSync(join(root, 'web/src'), { recursive: true })
  .filter((file) => /\.(vue|ts)$/.test(file) && !/\.test\.ts$|schema\.d\.ts$/.test(file))
  .map((file) => join('web/src', file))
const isComment = (line) => /^\s*(\/\/|\/\*|\*|<!--)/.test(line)
const found = files.flatMap((file) =>
  readFileSync(join(root, file), 'utf8')
    .split('\n')
    .flatMap((line, at) =>
      isComment(line)
        ? []
        : retired
            .filter(({ words }) => words.test(line))
            .map(({ instead }) => `${file}:${at + 1}: say "${instead}": ${line.trim()}`),
    ),
)
if (files.length < 100) throw new Error(`only ${files.length} files were looked at`)
if (found.length > 0) {
  console.error(found.join('\n'))
  process.exit(1)
}
