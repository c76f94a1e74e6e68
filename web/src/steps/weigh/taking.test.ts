import { useQueryClient } from '@tanstack/vue-query'
import { flushPromises } from '@vue/test-utils'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { computed, ref, shallowRef } from 'vue'
import { api, type ScaleReading } from '@/api/client'
import { answered, refused, used } from '@/tests/mounted'
import { useTakeAway } from './takeAway'
import { useTaking } from './taking'
import { useWeigh } from './weigh'

const thing = (id: string) => ({
  gear: { id, name: id, count: 10, weight: null },
  pieces: 10,
  alone: 10,
  low_mg: 0,
  high_mg: 0,
})
const page = { queue: ['mug', 'pot', 'pan'].map(thing), taken: [], kits: [], makers: { errors: [] } }
const post = vi.spyOn(api, 'POST')
const reading = (answer: () => unknown) =>
  ((path: string) => (path === '/api/lists' ? Promise.resolve(answered([])) : answer())) as never
const read = reading(() => Promise.resolve(answered(page)))
const empty = { ...page, queue: [] }
vi.spyOn(api, 'GET').mockImplementation(read)

async function weighing() {
  const { given } = used(() => {
    const weigh = useWeigh('list')
    const scale = ref<string | null>('scale')
    const reading = shallowRef<ScaleReading | null>(null)
    const away = useTakeAway()
    const taking = useTaking(weigh, { name: scale, reading }, away)
    const show = (state: string, mass_mg = 0) =>
      (reading.value = { state, mass_mg, step_mg: 1_000 } as ScaleReading)
    return { weigh, taking, away, show, marked: computed(() => weigh.queued.value?.gear.id) }
  })
  await vi.waitFor(() => expect(given.marked.value).toBe('mug'))
  const type = (text: string) => {
    given.taking.typed.value = text
    return given.taking.enterTyped()
  }
  return { ...given, type }
}
/** What the server was asked to take: for what, and how much. */
const sent = () =>
  (
    post.mock.calls as unknown as [string, { params: { path: { id: string } }; body: { total: string } }][]
  ).map(([, { params, body }]) => `${params.path.id} ${body.total}`)

beforeEach(() => {
  sessionStorage.clear()
  post.mockReset()
  post.mockResolvedValue(answered({}, 'change') as never)
})

describe('the order of the queue', () => {
  it('is by what not knowing costs where that is asked, and as the server has it otherwise', async () => {
    const doubts = [
      { line: 'a', gear: 'pan', name: 'pan', costs_minor: 3_400 },
      { line: 'b', gear: 'pot', name: 'pot', costs_minor: 900 },
    ]
    const list = { id: 'list', name: 'Week', terms: { meet: [] } }
    const plan = { list, frontier: [], swaps: [], plan: { swaps: [] }, revision: 3 }
    const get = vi.spyOn(api, 'GET').mockImplementation(((path: string) => {
      if (path === '/api/lists') return Promise.resolve(answered([list]))
      if (path === '/api/lists/{id}/plan') return Promise.resolve(answered(plan))
      if (path.endsWith('/near-misses'))
        return Promise.resolve(answered({ revision: 3, near_misses: [], meet_costs: [], sure: { doubts } }))
      return Promise.resolve(answered(page))
    }) as never)
    const { weigh } = await weighing()
    const order = () => weigh.queue.value.map(({ gear }) => gear.id)
    await vi.waitFor(() =>
      expect([...weigh.costs.value]).toEqual([
        ['pan', 3_400],
        ['pot', 900],
      ]),
    )
    expect(order()).toEqual(['mug', 'pot', 'pan'])
    weigh.byCost.value = true
    await flushPromises()
    expect(order()).toEqual(['pan', 'pot', 'mug'])
    weigh.all.value = true
    await flushPromises()
    expect(weigh.costs.value.size, 'of all gear no plan says it').toBe(0)
    get.mockImplementation(read)
  })
})

describe('taking weights', () => {
  it('goes on at once, each figure for what was marked when it was entered', async () => {
    const { type, marked } = await weighing()
    const all = ['118', '210', '330'].map(type)
    expect(marked.value).toBe('mug')
    await Promise.all(all)
    expect(sent()).toEqual(['mug 118', 'pot 210', 'pan 330'])
  })

  it('gives back what is refused, with its mark, while nothing else was begun', async () => {
    post.mockResolvedValueOnce(refused('"1,460 g" can be 1460 g or 1.46 g.') as never)
    const { type, marked, taking } = await weighing()
    taking.divided.value = true
    await type('1,460 g')
    await flushPromises()
    expect([marked.value, taking.typed.value, taking.divided.value]).toEqual(['mug', '1,460 g', true])
    expect(taking.refusal.value).toContain('can be 1460 g or 1.46 g')
  })

  it('never takes the next figure for the wrong thing: what fails late stands aside, to try again', async () => {
    let answer: (of: unknown) => void = () => {}
    post.mockReturnValueOnce(new Promise((resolve) => (answer = resolve)) as never)
    const { type, marked, taking, weigh } = await weighing()
    const first = type('118')
    await flushPromises()
    taking.typed.value = '21'
    answer(refused('The server is busy.'))
    await first
    expect([marked.value, taking.typed.value]).toEqual(['pot', '21'])
    expect(weigh.unsaved.value.map(({ name, shown, why }) => [name, shown, why])).toEqual([
      ['mug', '118', 'The server is busy.'],
    ])
    await type('210')
    await weigh.tryAgain(weigh.unsaved.value[0]!)
    expect([sent(), weigh.unsaved.value]).toEqual([['mug 118', 'pot 210', 'mug 118'], []])
  })

  it('waits for a queue that is older than the gear, though changes call its answer off', async () => {
    const get = vi.spyOn(api, 'GET')
    get.mockImplementation(reading(() => Promise.resolve(answered(empty))))
    const { given } = used(() => ({ weigh: useWeigh('new list'), queries: useQueryClient() }))
    const { weigh, queries } = given
    await vi.waitFor(() => expect(weigh.page.value).toEqual(empty))
    const answers: ((of: unknown) => void)[] = []
    get.mockImplementation(reading(() => new Promise((resolve) => answers.push(resolve))))
    const taken = weigh.take({ total: '118' }, '118', () => true)
    await vi.waitFor(() => expect(answers.length).toBe(1))
    await queries.cancelQueries()
    await vi.waitFor(() => expect(answers.length).toBe(2))
    get.mockImplementation(read)
    answers.forEach((answer) => answer(answered(page)))
    await taken
    expect(sent()).toEqual(['mug 118'])
  })

  it('never writes over what was typed since, when there turns out to be nothing to weigh', async () => {
    const get = vi.spyOn(api, 'GET')
    get.mockImplementation(reading(() => Promise.resolve(answered(empty))))
    const { given } = used(() => {
      const weigh = useWeigh('empty list')
      const none = { name: ref(null), reading: shallowRef(null) }
      return { weigh, taking: useTaking(weigh, none, useTakeAway()) }
    })
    const { taking } = given
    taking.typed.value = '300'
    const first = taking.enterTyped()
    taking.typed.value = '3'
    await first
    expect([taking.typed.value, taking.refusal.value]).toEqual([
      '3',
      '300: There is nothing to weigh here. Add gear first.',
    ])
    get.mockImplementation(read)
  })

  it('takes a steady reading once, however often Enter is pressed', async () => {
    const { taking, show } = await weighing()
    show('moving', 90_000)
    await flushPromises()
    await taking.enter()
    expect(taking.refusal.value).toContain('not steady')
    show('steady', 118_000)
    await flushPromises()
    await Promise.all([taking.enter(), taking.enter()])
    expect(sent()).toEqual(['mug 118 g'])
    expect(taking.canTake.value).toBe(false)
    show('moving', 60_000)
    await flushPromises()
    show('steady', 210_000)
    await flushPromises()
    await taking.enter()
    expect(sent()).toEqual(['mug 118 g', 'pot 210 g'])
  })
})
