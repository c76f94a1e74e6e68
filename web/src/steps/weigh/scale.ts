import { useQuery } from '@tanstack/vue-query'
import { useIntervalFn } from '@vueuse/core'
import { computed, onBeforeUnmount, ref, shallowRef } from 'vue'
import { api, take, type ScaleReading } from '@/api/client'
import { vocabularyQuery } from '@/api/queries'

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

interface HidDevice extends EventTarget {
  productName: string
  opened: boolean
  collections: { usagePage: number }[]
  open(): Promise<void>
  close(): Promise<void>
}
interface Hid extends EventTarget {
  getDevices(): Promise<HidDevice[]>
  requestDevice(options: { filters: { usagePage: number }[] }): Promise<HidDevice[]>
}
interface InputReport extends Event {
  reportId: number
  data: DataView
}

const isScale = ({ collections }: HidDevice) =>
  collections.some(({ usagePage }) => usagePage === WEIGHING_DEVICES)

const hex = (bytes: Iterable<number>) => [...bytes].map((byte) => byte.toString(16).padStart(2, '0')).join('')

/**
 * The scale at hand, live: a real one over WebHID where the browser has it, or the simulated one that the server names. Raw
 * reports are read and judged by the server, for both in the same way.
 */
export function useScale() {
  const { data: vocabulary } = useQuery(vocabularyQuery)
  const simulated = computed(() => vocabulary.value?.scale ?? null)
  const hid = (navigator as { hid?: Hid }).hid

  const name = ref<string | null>(null)
  const reading = shallowRef<ScaleReading | null>(null)
  const trouble = ref('')
  let reports: Report[] = []
  let disconnect: (() => void) | null = null

  const arrived = (bytes: string) => reports.push({ at_ms: Math.round(performance.now()), bytes })

  function connectSimulated() {
    if (!simulated.value) return
    leave()
    // The stream opens again by itself when the scale comes back.
    const stream = new EventSource(`${simulated.value}/reports`)
    stream.onmessage = (event: MessageEvent<string>) => arrived(event.data)
    name.value = 'kitchen scale (simulated)'
    disconnect = () => stream.close()
  }

  async function connectReal() {
    if (!hid) return
    trouble.value = ''
    try {
      // Devices that this page may use already; another of its own kind than a scale may be among them.
      const known = (await hid.getDevices()).find(isScale)
      const device = known ?? (await hid.requestDevice({ filters: [{ usagePage: WEIGHING_DEVICES }] }))[0]
      if (!device) return
      leave()
      if (!device.opened) await device.open()
      const listen = (event: Event) => {
        const { reportId, data } = event as InputReport
        arrived(hex([reportId, ...new Uint8Array(data.buffer, data.byteOffset, data.byteLength)]))
      }
      device.addEventListener('inputreport', listen)
      name.value = device.productName || 'USB scale'
      disconnect = () => {
        device.removeEventListener('inputreport', listen)
        void device.close()
      }
    } catch (error) {
      trouble.value = `The scale can't be read: ${error instanceof Error ? error.message : String(error)}`
    }
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
    reports = reports.filter((report) => now_ms - report.at_ms <= KEPT_MS)
    asking = true
    try {
      reading.value = await take(api.POST('/api/scale/read', { body: { reports, now_ms } }))
      trouble.value = ''
    } catch (error) {
      trouble.value = error instanceof Error ? error.message : String(error)
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
    hasHid: hid !== undefined,
    connectSimulated,
    connectReal,
    leave,
  }
}
