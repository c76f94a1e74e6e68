// Words that were retired from the screen (tools/retired-words.tsv) and names that were retired from the code (tools/retired-names.tsv) do not
// come back: `node tools/words.mjs`.
import { readdirSync, readFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { fileURLToPath } from 'node:url'

const root = join(dirname(fileURLToPath(import.meta.url)), '..')
const table = (file) =>
  readFileSync(join(root, file), 'utf8')
    .split('\n')
    .filter((line) => line !== '' && !line.startsWith('#'))
    .map((line) => line.split('\t'))
const filesOf = (folder, kind) =>
  readdirSync(join(root, folder), { recursive: true })
    .filter((file) => kind.test(file) && !file.endsWith('schema.d.ts'))
    .map((file) => join(folder, file))
const linesOf = (file) => readFileSync(join(root, file), 'utf8').split('\n').map((text, at) => ({ text, at: at + 1 }))
const told = (file, { text, at }, instead) => `${file}:${at}: say "${instead}": ${text.trim()}`

// On the screen: what is no comment.
const isComment = (line) => /^\s*(\/\/|\/\*|\*|<!--)/.test(line)
const words = table('tools/retired-words.tsv').map(([words, instead]) => ({ words: new RegExp(words), instead }))
const shown = filesOf('web/src', /(?<!\.test)\.(vue|ts)$/)
const onScreen = shown.flatMap((file) =>
  linesOf(file)
    .filter(({ text }) => !isComment(text))
    .flatMap((line) => words.filter(({ words }) => words.test(line.text)).map(({ instead }) => told(file, line, instead))),
)

// In the code: comments and the names of files, too.
const names = table('tools/retired-names.tsv').map(([where, names, instead]) => ({ where, names: new RegExp(names), instead }))
const crates = ['solver', 'core', 'store', 'service', 'server', 'simulators', 'testbed', 'browser', 'faults']
const code = [...crates.flatMap((crate) => filesOf(crate, /\.rs$/)), ...filesOf('web/src', /\.(vue|ts)$/)]
const inCode = code.flatMap((file) => {
  const here = names.filter(({ where }) => file.startsWith(where))
  return [{ text: file, at: 0 }, ...linesOf(file)].flatMap((line) => here.filter(({ names }) => names.test(line.text)).map(({ instead }) => told(file, line, instead)))
})

if (shown.length < 100 || code.length < 400) throw new Error(`only ${shown.length} and ${code.length} files were looked at`)
const found = [...onScreen, ...inCode]
if (found.length > 0) {
  console.error(found.join('\n'))
  process.exit(1)
}
