import { flushPromises } from '@vue/test-utils'
import { describe, expect, it, vi } from 'vitest'
import { api, type Lighter } from '@/api/client'
import { answered, mounted, refused, textOf } from '@/tests/mounted'
import LightCard from './LightCard.vue'
import { lighterLine } from './lighter'

const pack: Lighter = {
  line: 'l1',
  name: 'Framed pack, 58 l',
  kind: 'framed_pack',
  kind_name: 'framed pack',
  unit_mg: 1_680_000,
  light: { mg: 800_000, euros: 260 },
  usual: { mg: 1_300_000, euros: 200 },
  saving_mg: 880_000,
}

describe('where light is to be had', () => {
  it('says what light and usual ones weigh, and begins a swap with a guess', async () => {
    const mug = { ...pack, line: 'l2', name: 'Mug' }
    vi.spyOn(api, 'GET').mockResolvedValue(answered([pack, mug]) as never)
    const swaps = [{ remove: [{ line: 'l2', qty: 1 }] }] as never
    const card = mounted(LightCard, { list: 'list', swaps })
    await flushPromises()
    expect(card.findAll('li')).toHaveLength(1)
    expect(textOf(card.find('li'))).toContain(
      'framed pack: light ones weigh about 800 g and cost 260 €, usual ones 1 300 g and cost 200 €',
    )
    await card.find('button[aria-label^="Begin"]').trigger('click')
    expect(card.emitted('begin')).toEqual([['light framed pack ~800 g 260 EUR for Framed pack, 58 l']])
  })

  it('leaves out money that is no match', () => {
    expect(lighterLine(pack, { code: 'JPY', decimals: 0 }, false)).toBe(
      'light framed pack ~800 g for Framed pack, 58 l',
    )
  })

  it('takes what its owner has found, and goes back to what is typical', async () => {
    const found = { ...pack, own: { mg: 850_000, minor: 24_050 } }
    vi.spyOn(api, 'GET').mockResolvedValue(answered([found]) as never)
    const put = vi.spyOn(api, 'PUT').mockResolvedValueOnce(refused('A weight has a unit.') as never)
    const away = vi.spyOn(api, 'DELETE').mockResolvedValue(answered(undefined) as never)
    const card = mounted(LightCard, { list: 'list', swaps: [] })
    await flushPromises()
    expect(textOf(card.find('li'))).toContain('light ones that you found weigh 850 g and cost 240.50 €')
    expect(lighterLine(found, { code: 'EUR', decimals: 2 }, false)).toBe(
      'light framed pack ~850 g 240.5 EUR for Framed pack, 58 l',
    )
    await card.find('button[aria-label^="Change what a light"]').trigger('click')
    await card.find('input').setValue('heavy')
    await card.find('form').trigger('submit')
    await flushPromises()
    const asked = { params: { path: { kind: 'framed_pack' } } }
    expect(put).toHaveBeenCalledWith('/api/typical/{kind}', {
      ...asked,
      body: { weight: 'heavy', price: '240.5' },
    })
    expect(textOf(card.find('[role=alert]'))).toBe('A weight has a unit.')
    await card.findAll('form button')[1]!.trigger('click')
    expect(away).toHaveBeenCalledWith('/api/typical/{kind}', asked)
  })
})
