import { flushPromises } from '@vue/test-utils'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { nextTick } from 'vue'
import { api, type Session } from '@/api/client'
import { waiting } from '@/api/outbox'
import { answered, mounted, refused, used } from '@/tests/mounted'
import AccountMenu from './AccountMenu.vue'
import { day } from '@/quantities/dates'
import { useTypedWeights } from '@/domain/typedWeights'

const get = vi.spyOn(api, 'GET')
const remove = vi.spyOn(api, 'DELETE')
const patch = vi.spyOn(api, 'PATCH')
const session = (id: string, device: string, here = false): Session => ({
  id,
  device,
  here,
  started_at: '2026-09-01T10:00:00Z',
  seen_at: '2026-09-03T10:00:00Z',
})
const PHONE = 'Mozilla/5.0 (Linux; Android 14) AppleWebKit/537.36 Chrome/156.0 Mobile Safari/537.36'
const LAPTOP = 'Mozilla/5.0 (X11; Linux x86_64; rv:140.0) Gecko/20100101 Firefox/140.0'

beforeEach(() => {
  for (const spy of [get, remove, patch]) spy.mockReset()
})
afterEach(() => (document.body.innerHTML = ''))

async function opened() {
  get.mockResolvedValue(
    answered([session('a', LAPTOP, true), session('b', PHONE), session('c', '')]) as never,
  )
  const menu = mounted(AccountMenu, {})
  await menu.find('button.entry').trigger('click')
  await flushPromises()
  await nextTick()
  const rows = () =>
    [...document.querySelectorAll('.sessions li')].map((row) => row.textContent!.replace(/\s+/g, ' ').trim())
  return { rows }
}

describe('where an account is signed in', () => {
  it('is told by program and machine, this one first of all', async () => {
    const { rows } = await opened()
    expect(rows()).toEqual([
      'Firefox on Linux this one',
      `Chrome on Android last used ${day(session('b', '').seen_at)}Sign out`,
      `A browser last used ${day(session('c', '').seen_at)}Sign out`,
    ])
  })

  it('ends there when it is asked to, and says why if it does not', async () => {
    const { rows } = await opened()
    remove.mockResolvedValueOnce(answered(undefined) as never)
    get.mockResolvedValue(answered([session('a', LAPTOP, true)]) as never)
    document.querySelector<HTMLButtonElement>('.sessions button')!.click()
    await flushPromises()
    expect(remove).toHaveBeenCalledExactlyOnceWith('/api/sessions/{id}', { params: { path: { id: 'b' } } })
    expect(rows()).toHaveLength(1)
  })

  it('keeps the list when ending fails', async () => {
    const { rows } = await opened()
    remove.mockResolvedValueOnce(refused('There is nothing here with this id.') as never)
    document.querySelector<HTMLButtonElement>('.sessions button')!.click()
    await flushPromises()
    expect(rows()).toHaveLength(3)
    expect(document.querySelector('[role=alert]')!.textContent).toContain('nothing here with this id')
  })
})

describe('an account deleted by its owner', () => {
  it('asks for the password once more, and says why it is not deleted', async () => {
    await opened()
    const button = (text: string) =>
      [...document.querySelectorAll('button')].find((button) => button.textContent!.includes(text))!
    button('Delete account').click()
    await nextTick()
    expect(document.querySelector('a[download]')!.getAttribute('href')).toBe('/api/files/account.json')
    const field = document.querySelector<HTMLInputElement>('input[name=delete-password]')!
    field.value = 'wrong horse'
    field.dispatchEvent(new Event('input'))
    remove.mockResolvedValueOnce(refused('The password is wrong.', 'wrong_password') as never)
    await nextTick()
    button('Delete everything').click()
    await flushPromises()
    expect(remove).toHaveBeenCalledExactlyOnceWith('/api/account', { body: { password: 'wrong horse' } })
    expect(document.querySelector('.delete [role=alert]')!.textContent).toBe('The password is wrong.')
  })
})

describe('where typed weights come from', () => {
  // The account is asked for again after it was changed.
  beforeEach(() => void get.mockRejectedValue(new TypeError('no network')))

  it('is the maker until somebody says otherwise', () => {
    const { given } = used(useTypedWeights)
    expect([given.source.value, given.asked.value]).toEqual(['maker', false])
  })

  it('is kept with the account, whose units stay', async () => {
    patch.mockResolvedValueOnce(answered(undefined) as never)
    const { given } = used(useTypedWeights)
    await given.turn()
    expect(patch).toHaveBeenCalledExactlyOnceWith('/api/account', {
      body: {
        mass: 'metric',
        currency: 'EUR',
        version: 1,
        settings: expect.objectContaining({ typed_weights: 'weighed' }) as object,
      },
    })
  })

  it('stays as it was when that is refused', async () => {
    patch.mockResolvedValueOnce(refused('It was changed somewhere else.', 'stale') as never)
    const { given } = used(useTypedWeights)
    await expect(given.turn()).rejects.toThrow('changed somewhere else')
    expect(given.source.value).toBe('maker')
  })
})

describe('signing out', () => {
  afterEach(() => (waiting.value = []))
  it('asks once more where changes would be lost by it', async () => {
    waiting.value = [{ key: 'k', method: 'PATCH', path: '/api/gear/1', body: {}, what: 'mug: pieces 2' }]
    remove.mockResolvedValue(refused('Not now.') as never)
    await opened()
    const button = () =>
      [...document.querySelectorAll<HTMLButtonElement>('.actions button')].find((one) =>
        one.textContent.includes('Sign out'),
      )!
    button().click()
    await nextTick()
    expect(remove).not.toHaveBeenCalled()
    expect(document.querySelector('.parts [role=alert]')!.textContent.replace(/\s+/g, ' ')).toContain(
      '1 change of yours has not reached the server and would be lost.',
    )
    expect(button().textContent).toContain('Sign out and lose them')
    button().click()
    await flushPromises()
    expect(remove).toHaveBeenCalledExactlyOnceWith('/api/session')
    // Refused: nobody is signed out, and nothing is lost.
    expect(waiting.value).toHaveLength(1)
  })
})
