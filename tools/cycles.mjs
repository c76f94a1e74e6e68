// No two modules of a crate need each other: `node tools/cycles.mjs`. Reads the `use` lines and paths of every crate; tests are left out.
import { readdirSync, readFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { fileURLToPath } from 'node:url'

const root = join(dirname(fileURLToPath(import.meta.url)), '..')
const CRATES = ['solver', 'core', 'store', 'service', 'server', 'simulators']

/** The modules of a crate by their path, such as `plan/night`, with their code. */
function modulesOf(crate) {
  const src = join(root, crate, 'src')
  const files = readdirSync(src, { recursive: true }).filter((file) => file.endsWith('.rs') && !/(^|\/)tests(\/|\.rs$)/.test(file))
  const name = (file) => file.slice(0, -3).replace(/(^|\/)(mod|lib|main)$/, '')
  const code = (file) => readFileSync(join(src, file), 'utf8').replace(/\/\/.*/g, '').split('#[cfg(test)]')[0]
  return new Map(files.map((file) => [name(file), code(file)]))
}

/** The paths that a `use` tree names. */
function paths(tree, prefix = '') {
  const parts = []
  let [depth, part] = [0, '']
  for (const letter of tree) {
    if (letter === '{') depth += 1
    if (letter === '}') depth -= 1
    if (letter === ',' && depth === 0) {
      parts.push(part)
      part = ''
    } else part += letter
  }
  return [...parts, part].flatMap((one) => {
    const text = one.trim()
    const brace = text.indexOf('{')
    if (text === '') return []
    if (brace < 0) return [prefix + text.split(' as ')[0].trim()]
    return paths(text.slice(brace + 1, text.lastIndexOf('}')), prefix + text.slice(0, brace))
  })
}

/** The modules of its crate that a module names; its own parents only where they are named to the end. */
function needs(module, code, modules) {
  const used = [...code.matchAll(/\buse\s+((?:crate|super|self)::[^;]+);/g)].flatMap(([, tree]) => paths(tree))
  const named = [...code.matchAll(/\b((?:crate|super)(?:::\w+)+)/g)].map(([, path]) => path)
  const found = new Set()
  for (const path of [...used, ...named]) {
    let steps = path.split('::')
    let at = module === '' ? [] : module.split('/')
    if (steps[0] === 'crate') [at, steps] = [[], steps.slice(1)]
    else if (steps[0] === 'self') steps = steps.slice(1)
    else while (steps[0] === 'super') [at, steps] = [at.slice(0, -1), steps.slice(1)]
    for (const step of steps) {
      const next = [...at, step]
      if (!modules.has(next.join('/'))) break
      at = next
    }
    const other = at.join('/')
    const isParent = other === '' || module === other || module.startsWith(`${other}/`)
    if (!isParent && modules.has(other)) found.add(other)
  }
  return found
}

/** The circles of a graph: its strongly connected parts of more than one node (Tarjan). */
function circles(graph) {
  const [order, low, stack, found] = [new Map(), new Map(), [], []]
  const visit = (node) => {
    order.set(node, order.size)
    low.set(node, order.get(node))
    stack.push(node)
    for (const next of graph.get(node) ?? []) {
      if (!order.has(next)) visit(next)
      if (stack.includes(next)) low.set(node, Math.min(low.get(node), low.get(next)))
    }
    if (low.get(node) !== order.get(node)) return
    const part = stack.splice(stack.indexOf(node))
    if (part.length > 1) found.push(part)
  }
  for (const node of graph.keys()) if (!order.has(node)) visit(node)
  return found
}

const found = CRATES.flatMap((crate) => {
  const modules = modulesOf(crate)
  const files = new Map([...modules].map(([module, code]) => [module, needs(module, code, modules)]))
  const folder = (module) => module.split('/')[0]
  const folders = new Map()
  for (const [module, others] of files) {
    const to = folders.get(folder(module)) ?? new Set()
    for (const other of others) if (folder(other) !== folder(module)) to.add(folder(other))
    if (module !== '') folders.set(folder(module), to)
  }
  return [...circles(files), ...circles(folders)].map((circle) => `${crate}: ${circle.join(' and ')} need each other`)
})
if (found.length > 0) {
  console.error(found.join('\n'))
  process.exit(1)
}
