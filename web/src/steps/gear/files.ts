import { reactive, ref, shallowRef } from 'vue'
import { api, unwrap, unwrapChange, type FileHow, type FilePreview } from '@/api/client'
import { useChange, useUndo } from '@/api/changes'
import { reason, useMessages } from '@/controls/messages'
import { counted } from '@/quantities/count'

/** A gear file and how it is to be read, as the form that is sent. */
function form(file: File, how: FileHow): FormData {
  const form = new FormData()
  form.append('file', file)
  form.append('how', new Blob([JSON.stringify(how)], { type: 'application/json' }))
  return form
}

/** The file of what is sent; the form is made of it and of how it is to be read. */
const sent = (file: File, how: FileHow) => ({
  body: { file: file.name, how },
  bodySerializer: () => form(file, how),
})

/** Where what is read goes: a new list of a name, one that is there, or only into the inventory. */
export interface Onto {
  kind: 'new' | 'list' | 'none'
  name: string
}

/** What was read, and what can be done next. */
export interface Done {
  file: string
  added: number
  changed: number
  list: string | null
  unknown: number
}

/** Reading a gear file: chosen, mapped, looked at, written. */
export function useImport(list: () => { id: string; isEmpty: boolean } | null = () => null) {
  const { done } = useMessages()
  const undo = useUndo()
  const name = ref('')
  const preview = ref<FilePreview | null>(null)
  const refusal = ref('')
  const busy = ref(false)
  const read = ref<Done | null>(null)
  const asked = reactive<FileHow>({ columns: null, unit: null, source: null, systems: {}, leave: null })
  const onto = reactive<Onto>({ kind: 'new', name: '' })
  const chosen = shallowRef(new File([], ''))

  let looks = 0
  async function look() {
    refusal.value = ''
    const look = ++looks
    busy.value = true
    try {
      const seen = await unwrap(api.POST('/api/files/gear/preview', sent(chosen.value, { ...asked })))
      // What was mapped in the meantime is looked at by a later look.
      if (look !== looks) return
      preview.value = seen
      asked.columns = seen.columns.map((column) => column.holds ?? null)
    } catch (error) {
      if (look === looks) refusal.value = reason(error)
    } finally {
      if (look === looks) busy.value = false
    }
  }

  const write = useChange((how: FileHow) =>
    unwrapChange(api.POST('/api/files/gear', sent(chosen.value, how))),
  )

  return {
    name,
    preview,
    refusal,
    busy,
    asked,
    onto,
    /** What was read last, until another file is chosen. */
    read,
    look,
    open: async (file: File, where?: Onto['kind']) => {
      name.value = file.name
      preview.value = null
      read.value = null
      chosen.value = file
      Object.assign(asked, { columns: null, unit: null, source: null, systems: {}, leave: null })
      // A list that nothing is on is what the file is for; else the file is a list of its own.
      onto.kind = where ?? (list()?.isEmpty ? 'list' : 'new')
      onto.name = file.name.replace(/\.[^.]*$/, '').slice(0, 120) || 'From a file'
      await look()
    },
    /** Says what a column holds; a column of ours is held by one of the file's. */
    map: async (at: number, holds: string | null) => {
      asked.columns = (asked.columns ?? []).map((held, other) =>
        other === at ? holds : held === holds ? null : held,
      )
      // The unit stands in the header of the column that holds the weight now.
      if (holds === 'weight_g' || holds === 'weight_minor') asked.unit = null
      await look()
    },
    /** Leaves a line out, or takes it. */
    tick: async (line: number, isTaken: boolean) => {
      const leave = new Set(asked.leave ?? preview.value?.leave)
      if (isTaken) leave.delete(line)
      else leave.add(line)
      asked.leave = [...leave].sort((a, b) => a - b)
      await look()
    },
    write: async () => {
      if (busy.value || !preview.value) return
      busy.value = true
      refusal.value = ''
      const { unknown } = preview.value.sums
      try {
        const written = await write.mutateAsync({
          ...asked,
          list: onto.kind === 'list' ? (list()?.id ?? null) : null,
          new_list: onto.kind === 'new' ? onto.name : null,
        })
        const { added, changed, refused } = written.value
        const parts = [`${added} added`, changed && `${changed} changed`, refused && `${refused} refused`]
        done(`${name.value}: ${parts.filter(Boolean).join(', ')}.`, undo(written))
        read.value = { file: name.value, added, changed, list: written.value.list ?? null, unknown }
        preview.value = null
        name.value = ''
      } catch (error) {
        refusal.value = reason(error)
      } finally {
        busy.value = false
      }
    },
    drop: () => {
      preview.value = null
      name.value = ''
      refusal.value = ''
    },
  }
}

/** A backup that was chosen, and what it would bring. */
interface Backup {
  name: string
  text: string
  gear: number
  lists: number
}

/** Reading a backup of the whole account. */
export function useRestore() {
  const { done } = useMessages()
  const undo = useUndo()
  const backup = ref<Backup | null>(null)
  const refusal = ref('')
  const restore = useChange((text: string) =>
    unwrapChange(api.POST('/api/files/account', { body: text, bodySerializer: (text) => text })),
  )

  return {
    backup,
    refusal,
    open: async (file: File) => {
      refusal.value = ''
      backup.value = null
      const text = await file.text()
      try {
        const read = JSON.parse(text) as { gear?: unknown[]; lists?: unknown[] }
        backup.value = { name: file.name, text, gear: read.gear?.length ?? 0, lists: read.lists?.length ?? 0 }
      } catch {
        refusal.value = `${file.name} is not JSON. Choose a kevyt-account.json that was exported here.`
      }
    },
    restore: async () => {
      if (!backup.value) return
      refusal.value = ''
      try {
        const restored = await restore.mutateAsync(backup.value.text)
        done(
          `Restored: ${counted(restored.value.gear, 'thing')}, ${counted(restored.value.lists, 'list')}.`,
          undo(restored),
        )
        backup.value = null
      } catch (error) {
        refusal.value = reason(error)
      }
    },
    drop: () => (backup.value = null),
  }
}
