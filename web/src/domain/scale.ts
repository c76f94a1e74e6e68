import { useQuery } from '@tanstack/vue-query'
import { useEventListener, useIntervalFn } from '@vueuse/core'
import { computed, onBeforeUnmount, ref, shallowRef } from 'vue'
import { api, unwrap, type ScaleReading } from '@/api/client'
import { vocabularyQuery } from '@/api/queries'
import { reason } from '@/controls/messages'

/** A report as it came, and when. */
interface Report {
  at_ms: number
  bytes: string
}

/** Reports are kept for this long: what the judgement of a reading looks back on. */
const KEPT_MS = 5_000
/** How often the newest are judged. */
const ASK_EVERY_MS = 200
/** The usage page of weighing devices (USB HID Point of Sale Usage Tables). */
const WEIGHING_DEVICES = 0x8d
/** The Bluetooth service of scales, and its characteristic that carries a weight. */
const WEIGHT_SCALE = 0x181d
const WEIGHT_MEASUREMENT = 0x2a9d

const isScale = ({ collections }: HIDDevice) =>
  collections.some(({ usagePage }) => usagePage === WEIGHING_DEVICES)

const hex = (bytes: Iterable<number>) => [...bytes].map((byte) => byte.toString(16).padStart(2, '0')).join('')

/**
 * The scale at hand, live: a real one over WebHID or Web Bluetooth where the browser has them, or the simulated one that the server names.
 * What it sends is read and judged by the server.
 */
export function useScale() {
  const { data: vocabulary } = useQuery(vocabularyQuery)
  const simulated = computed(() => vocabulary.value?.scale ?? null)
  const hid = navigator.hid as HID | undefined
  const bluetooth = navigator.bluetooth as Bluetooth | undefined

  const name = ref<string | null>(null)
  const reading = shallowRef<ScaleReading | null>(null)
  const trouble = ref('')
  let reports: Report[] = []
  /** A scale over Bluetooth sends a measurement once it stands still, which stands until the next. */
  let speaks: 'usb' | 'bluetooth' = 'usb'
  let disconnect: (() => void) | null = null

  const arrived = (bytes: string) => reports.push({ at_ms: Math.round(performance.now()), bytes })

  function connectSimulated() {
    if (!simulated.value || real) return
    leave()
    // The stream opens again by itself when the scale comes back.
    const stream = new EventSource(`${simulated.value}/reports`)
    stream.onmessage = (event: MessageEvent<string>) => arrived(event.data)
    name.value = 'kitchen scale (simulated)'
    disconnect = () => stream.close()
  }

  /** Devices that this page may use already; another of its own kind than a scale may be among them. */
  const knownScale = async () => (await hid?.getDevices())?.find(isScale)

  async function connectReal() {
    if (!hid) return
    await attempt(async () => {
      const device =
        (await knownScale()) ??
        (await hid.requestDevice({ filters: [{ usagePage: WEIGHING_DEVICES }] })).find(isScale)
      if (device) await listenTo(device)
    })
  }

  async function attempt(work: () => Promise<void>) {
    trouble.value = ''
    try {
      await work()
    } catch (error) {
      // Whoever closes the browser's list of devices has chosen none.
      if (error instanceof DOMException && error.name === 'NotFoundError') return
      trouble.value = `The scale can't be read: ${reason(error)}`
    }
  }

  let real: HIDDevice | null = null
  async function listenTo(device: HIDDevice) {
    leave()
    if (!device.opened) await device.open()
    const listen = ({ reportId, data }: HIDInputReportEvent) =>
      arrived(hex([reportId, ...new Uint8Array(data.buffer, data.byteOffset, data.byteLength)]))
    device.addEventListener('inputreport', listen)
    real = device
    name.value = device.productName || 'USB scale'
    disconnect = () => {
      device.removeEventListener('inputreport', listen)
      real = null
      void device.close()
    }
  }

  async function connectBluetooth() {
    if (!bluetooth) return
    await attempt(async () => {
      const device = await bluetooth.requestDevice({ filters: [{ services: [WEIGHT_SCALE] }] })
      leave()
      const service = await (await device.gatt!.connect()).getPrimaryService(WEIGHT_SCALE)
      const weight = await service.getCharacteristic(WEIGHT_MEASUREMENT)
      const listen = () => {
        const { value } = weight
        if (!value) return
        // Another measurement is of another load, even if it weighs the same.
        reports = []
        if (reading.value) reading.value = { ...reading.value, state: 'moving' }
        arrived(hex(new Uint8Array(value.buffer, value.byteOffset, value.byteLength)))
      }
      const gone = () => {
        leave()
        trouble.value = 'The scale was switched off or is out of reach. Connect it again.'
      }
      weight.addEventListener('characteristicvaluechanged', listen)
      device.addEventListener('gattserverdisconnected', gone)
      disconnect = () => {
        speaks = 'usb'
        weight.removeEventListener('characteristicvaluechanged', listen)
        device.removeEventListener('gattserverdisconnected', gone)
        device.gatt!.disconnect()
      }
      speaks = 'bluetooth'
      await weight.startNotifications()
      name.value = device.name || 'Bluetooth scale'
    })
  }

  if (hid) {
    // A scale that is known already is listened to as soon as it is there; one that is switched off and on again, too.
    useEventListener(hid, 'connect', ({ device }: HIDConnectionEvent) => {
      if (isScale(device) && !real) void attempt(() => listenTo(device))
    })
    useEventListener(hid, 'disconnect', ({ device }: HIDConnectionEvent) => {
      if (device !== real) return
      leave()
      trouble.value = 'The scale was unplugged or switched off. Once it is back, it goes on.'
    })
    void attempt(async () => {
      const device = await knownScale()
      if (device && !real) await listenTo(device)
    })
  }

  function leave() {
    disconnect?.()
    disconnect = null
    name.value = null
    reading.value = null
    reports = []
  }

  let asking = false
  useIntervalFn(async () => {
    if (asking || name.value === null) return
    const now_ms = Math.round(performance.now())
    if (speaks === 'usb') reports = reports.filter((report) => now_ms - report.at_ms <= KEPT_MS)
    asking = true
    const sent = reports
    const judged = (what: () => void) => {
      // What was asked of a scale that is gone, or of a measurement that another has followed, says nothing.
      if (reports === sent) what()
    }
    try {
      const body = { reports, now_ms, ...(speaks === 'bluetooth' && { speaks }) }
      const now = await unwrap(api.POST('/api/scale/read', { body }))
      judged(() => {
        reading.value = now
        trouble.value = ''
      })
    } catch (error) {
      judged(() => (trouble.value = reason(error)))
    } finally {
      asking = false
    }
  }, ASK_EVERY_MS)

  onBeforeUnmount(leave)
  return {
    name,
    reading,
    trouble,
    simulated,
    connectSimulated,
    /** How a scale can be connected in this browser. */
    connections: [
      ...(hid ? [{ over: 'USB', connect: connectReal }] : []),
      ...(bluetooth ? [{ over: 'Bluetooth', connect: connectBluetooth }] : []),
    ],
    leave,
  }
}
