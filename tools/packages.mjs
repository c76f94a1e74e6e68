// What the product is built from, looked at without a network: licences, where packages come from, and packages in two versions.
// Known faults of packages are in databases on the network: whoever has one asks it (`cargo audit`, `npm audit`).
import { execFileSync } from 'node:child_process'
import { readFileSync } from 'node:fs'

/** Licences under which a package may be part of the product; those of a file each (MPL) as long as it is used as it is. */
const TAKEN = new Set(
  `MIT MIT-0 Apache-2.0 BSD-2-Clause BSD-3-Clause ISC Zlib 0BSD BSL-1.0 CC0-1.0 Unicode-3.0 Unlicense MPL-2.0 OFL-1.1`.split(
    ' ',
  ),
)
/** Those of tools that only build and check it. */
const TAKEN_BY_TOOLS = new Set([...TAKEN, 'BlueOak-1.0.0', 'CC-BY-4.0', 'Python-2.0'])
/** Crates that stand in two versions or more, as other packages ask for them. One more is to be looked at before this is raised. */
const TWICE = 31

/** Whether one may choose licences of an expression that are all taken: `OR` leaves the choice, `AND` binds stronger, `/` is an old `OR`. */
function mayTake(expression, taken) {
  const words = expression.replaceAll('/', ' OR ').replace(/[()]/g, ' $& ').trim().split(/\s+/)
  const either = () => {
    let fits = both()
    while (words[0] === 'OR') fits = (words.shift(), both()) || fits
    return fits
  }
  const both = () => {
    let fits = one()
    while (words[0] === 'AND') fits = (words.shift(), one()) && fits
    return fits
  }
  const one = () => {
    const word = words.shift()
    if (word === '(') {
      const fits = either()
      return words.shift() === ')' && fits
    }
    // An exception only allows more.
    if (words[0] === 'WITH') words.splice(0, 2)
    return taken.has(word)
  }
  return either() && words.length === 0
}

for (const [expression, fits] of [
  ['MIT/Apache-2.0', true],
  ['GPL-3.0 OR MIT', true],
  ['MIT AND GPL-3.0', false],
  ['(GPL-3.0 OR MIT) AND ISC', true],
  ['Apache-2.0 WITH LLVM-exception', true],
  ['', false],
]) {
  if (mayTake(expression, TAKEN) !== fits) throw new Error(`"${expression}" is read wrongly`)
}

const faults = []
const asked = [
  'metadata',
  '--format-version',
  '1',
  '--locked',
  '--offline',
  '--filter-platform',
  'x86_64-unknown-linux-gnu',
]
const { packages, resolve } = JSON.parse(
  execFileSync('cargo', asked, { maxBuffer: 2 ** 28, stdio: ['ignore', 'pipe', 'inherit'] }),
)
const used = new Map(resolve.nodes.map((node) => [node.id, node]))
const crates = packages.filter((crate) => used.has(crate.id))
const versions = new Map()
for (const { name, version, license, source } of crates) {
  versions.set(name, [...(versions.get(name) ?? []), version])
  if (source === null) continue
  if (!source.startsWith('registry+'))
    faults.push(`${name} ${version} comes from ${source}, not from a registry`)
  if (!mayTake(license ?? '', TAKEN))
    faults.push(`${name} ${version} has the licence ${license ?? 'of nobody knows what'}`)
}
const twice = [...versions].filter(([, all]) => all.length > 1)
if (twice.length > TWICE)
  faults.push(
    `${twice.length} crates stand in two versions, ${TWICE} did: ${twice.map(([name]) => name).join(', ')}`,
  )
// What our own crates ask for is one version each.
const own = crates.filter(({ source }) => source === null).flatMap(({ id }) => used.get(id).dependencies)
const asks = new Map(
  crates
    .filter(({ id, source }) => source !== null && own.includes(id))
    .map((crate) => [crate.id, crate.name]),
)
const names = [...asks.values()]
for (const name of new Set(names.filter((name, at) => names.indexOf(name) !== at)))
  faults.push(`our own crates use ${name} in two versions`)

const lock = JSON.parse(readFileSync('web/package-lock.json', 'utf8'))
for (const [path, { version, license, dev, integrity, resolved }] of Object.entries(lock.packages)) {
  if (path === '') continue
  const name = path.replace(/.*node_modules\//, '')
  // A name and a checksum are enough to find a package in a registry; an address would be of somewhere else.
  if (!integrity || resolved) faults.push(`${name} ${version} comes from ${resolved ?? 'nobody knows where'}`)
  if (!mayTake(license ?? '', dev ? TAKEN_BY_TOOLS : TAKEN))
    faults.push(`${name} ${version} has the licence ${license}`)
}

if (faults.length > 0) {
  console.error(faults.join('\n'))
  process.exit(1)
}
console.log(
  `${crates.length} crates and ${Object.keys(lock.packages).length - 1} npm packages: licences and origins as they should be.`,
)
