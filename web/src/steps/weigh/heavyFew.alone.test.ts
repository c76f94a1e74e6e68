import { flushPromises } from '@vue/test-utils'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { ref } from 'vue'
import { api } from '@/api/client'
import { answered, mounted, refused, textOf } from '@/tests/mounted'
import HeavyFew from './HeavyFew.vue'

const current = ref<{ id: string } | null>({ id: 'list' })
vi.mock('@/domain/lists', () => ({ useLists: () => ({ current }), stepOf: () => '/' }))
const post = vi.spyOn(api, 'POST')
const reasons: Record<string, string> = {}

/** The server's part: some lines are refused. */
function serve({ body }: { body: { line: string } }) {
  const why = Object.entries(reasons).find(([part]) => body.line.includes(part))?.[1]
  return why ? refused(why) : answered({ id: body.line })
}

beforeEach(() => {
  sessionStorage.clear()
  post.mockReset()
  post.mockImplementation((async (_: string, asked: never) => serve(asked)) as never)
  for (const part of Object.keys(reasons)) delete reasons[part]
})

async function entered(weights: string[]) {
  const few = mounted(HeavyFew, { list: 'list' })
  const fields = few.findAll('.row .weight input')
  for (const [at, weight] of weights.entries()) await fields[at]!.setValue(weight)
  const enter = async () => {
    await few.find('form').trigger('submit')
    await flushPromises()
  }
  await enter()
  return { few, enter, fields }
}
const added = () =>
  post.mock.calls
    .map((call) => call as unknown as [string, { body: { line: string } }])
    .filter(([path]) => path === '/api/gear/line')
    .map(([, asked]) => asked.body)

describe('an empty account', () => {
  it('begins with pack, shelter and sleep, of makers’ weights unless said otherwise, on the list', async () => {
    const { few } = await entered(['1680', '4 lb 3 oz', ''])
    const more = { list: 'list', source: 'maker' }
    expect(added()).toEqual([
      { line: '"Pack" 1680 g #pack', ...more },
      { line: '"Tent" 4 lb 3 oz #shelter', ...more },
      { line: '"Sleeping bag" #sleep', ...more },
    ])
    expect(few.emitted('done')).toHaveLength(1)
  })

  it('keeps what was refused beside its field, and adds nothing twice', async () => {
    reasons['1,680'] = '"1,680 g" can be 1680 g or 1.68 g. Type 1680 or 1.68.'
    const { few, enter, fields } = await entered(['1,680', '1900', '1100'])
    expect(few.findAll('[role=alert]').map((alert) => textOf(alert))).toEqual([reasons['1,680']])
    expect([(fields[0]!.element as HTMLInputElement).value, few.emitted('done')]).toEqual([
      '1,680',
      undefined,
    ])
    await fields[0]!.setValue('1680')
    await enter()
    expect(added().map(({ line }) => line.split(' ')[0])).toEqual(['"Pack"', '"Tent"', '"Sleeping', '"Pack"'])
    expect(few.emitted('done')).toHaveLength(1)
  })
})
