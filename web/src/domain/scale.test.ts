import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { api } from '@/api/client'
import { answered, refused, used } from '@/tests/mounted'
import { useScale } from './scale'

class Device extends EventTarget {
  productName = 'Bench scale'
  opened = false
  collections: { usagePage: number }[]
  constructor(usagePage: number) {
    super()
    this.collections = [{ usagePage }]
  }
  open = vi.fn(async () => void (this.opened = true))
  close = vi.fn(async () => void (this.opened = false))
  report(bytes: number[]) {
    const data = new DataView(new Uint8Array(bytes).buffer)
    this.dispatchEvent(Object.assign(new Event('inputreport'), { reportId: 3, data }))
  }
}

const post = vi.spyOn(api, 'POST')
let known: Device[], offered: Device[]
beforeEach(() => {
  vi.useFakeTimers({ toFake: ['setInterval', 'clearInterval', 'performance'] })
  post.mockReset()
  post.mockResolvedValue(answered({ state: 'steady', mass_mg: 337_000, step_mg: 1_000 }) as never)
  ;[known, offered] = [[], []]
  vi.stubGlobal('navigator', {
    ...navigator,
    hid: Object.assign(new EventTarget(), {
      getDevices: async () => known,
      requestDevice: vi.fn(async () => offered),
    }),
  })
})
afterEach(() => {
  vi.useRealTimers()
  vi.unstubAllGlobals()
})

const connect = ({ connections }: ReturnType<typeof useScale>, over: string) =>
  connections.find((one) => one.over === over)!.connect()

describe('a USB scale', () => {
  it('sends its raw reports to be judged, the last five seconds of them', async () => {
    const scale = new Device(0x8d)
    offered = [scale]
    const { given } = used(useScale)
    await connect(given, 'USB')
    expect([given.name.value, scale.opened]).toEqual(['Bench scale', true])
    scale.report([4, 2, 0, 0x51, 0x01])
    await vi.advanceTimersByTimeAsync(250)
    expect(post).toHaveBeenLastCalledWith('/api/scale/read', {
      body: { reports: [{ at_ms: expect.any(Number), bytes: '030402005101' }], now_ms: expect.any(Number) },
    })
    expect(given.reading.value).toMatchObject({ state: 'steady', mass_mg: 337_000 })
    await vi.advanceTimersByTimeAsync(6_000)
    expect(post).toHaveBeenLastCalledWith('/api/scale/read', {
      body: { reports: [], now_ms: expect.any(Number) },
    })
  })

  it('is one that the page may use already, if that is a scale', async () => {
    known = [new Device(1), new Device(0x8d)]
    const { given } = used(useScale)
    await connect(given, 'USB')
    expect(known.map((device) => device.opened)).toEqual([false, true])
  })

  it('is left when the step is left', async () => {
    const scale = new Device(0x8d)
    offered = [scale]
    const { given, leave } = used(useScale)
    await connect(given, 'USB')
    leave()
    expect(scale.close).toHaveBeenCalledOnce()
    post.mockClear()
    await vi.advanceTimersByTimeAsync(1_000)
    expect(post).not.toHaveBeenCalled()
  })

  it('says what keeps it from being read, and is read again when that has passed', async () => {
    const scale = new Device(0x8d)
    offered = [scale]
    scale.open.mockRejectedValueOnce(new Error('The device is in use.'))
    const { given } = used(useScale)
    await connect(given, 'USB')
    expect(given.trouble.value).toBe("The scale can't be read: The device is in use.")
    await connect(given, 'USB')
    post.mockResolvedValueOnce(refused('The server is stopping.') as never)
    await vi.advanceTimersByTimeAsync(200)
    expect(given.trouble.value).toBe('The server is stopping.')
    await vi.advanceTimersByTimeAsync(200)
    expect([given.trouble.value, given.reading.value?.state]).toEqual(['', 'steady'])
  })

  it('is nothing where nobody chose one', async () => {
    const { given } = used(useScale)
    await connect(given, 'USB')
    await vi.advanceTimersByTimeAsync(400)
    expect([given.name.value, given.trouble.value, post.mock.calls.length]).toEqual([null, '', 0])
  })
})

describe('a Bluetooth scale', () => {
  /** The standard service as a scale offers it: a measurement each time that the reading stands still. */
  class Weight extends EventTarget {
    value: DataView | undefined
    startNotifications = vi.fn(async () => this)
    measure(bytes: number[]) {
      this.value = new DataView(new Uint8Array(bytes).buffer)
      this.dispatchEvent(new Event('characteristicvaluechanged'))
    }
  }
  const connected = async () => {
    const weight = new Weight()
    const gatt = {
      connect: async () => ({ getPrimaryService: async () => ({ getCharacteristic: async () => weight }) }),
      disconnect: vi.fn(),
    }
    const device = Object.assign(new EventTarget(), { name: 'Hook scale', gatt })
    const requestDevice = vi.fn(async () => device)
    vi.stubGlobal('navigator', { ...navigator, hid: undefined, bluetooth: { requestDevice } })
    const scale = used(useScale)
    await connect(scale.given, 'Bluetooth')
    return { ...scale, weight, device, gatt, requestDevice }
  }

  it('is asked for by its service, and its measurement stands until the next', async () => {
    const { given, weight, requestDevice } = await connected()
    expect(requestDevice).toHaveBeenCalledWith({ filters: [{ services: [0x181d] }] })
    expect(given.name.value).toBe('Hook scale')
    weight.measure([0, 0x7e, 0x01])
    await vi.advanceTimersByTimeAsync(20_000)
    expect(post).toHaveBeenLastCalledWith('/api/scale/read', {
      body: {
        reports: [{ at_ms: expect.any(Number), bytes: '007e01' }],
        now_ms: expect.any(Number),
        speaks: 'bluetooth',
      },
    })
    expect(given.reading.value?.state).toBe('steady')
    // The same weight once more is another load; what was asked of the one before comes too late.
    let answer: (late: never) => void = () => {}
    post.mockReturnValueOnce(new Promise<never>((resolve) => (answer = resolve)))
    await vi.advanceTimersByTimeAsync(250)
    weight.measure([0, 0x7e, 0x01])
    answer(answered({ state: 'steady', mass_mg: 1_910_000, step_mg: 5_000 }) as never)
    await vi.advanceTimersByTimeAsync(10)
    expect(given.reading.value?.state).toBe('moving')
    await vi.advanceTimersByTimeAsync(250)
    expect(given.reading.value?.state).toBe('steady')
  })

  it('says when it is out of reach, and is left with the step', async () => {
    const first = await connected()
    first.device.dispatchEvent(new Event('gattserverdisconnected'))
    expect(first.given.name.value).toBeNull()
    expect(first.given.trouble.value).toContain('out of reach')
    const second = await connected()
    second.leave()
    expect(second.gatt.disconnect).toHaveBeenCalledOnce()
  })
})
