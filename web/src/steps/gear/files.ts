import { reactive, ref, shallowRef } from 'vue'
import { api, take, takeChanged, type FileHow, type FilePreview } from '@/api/client'
import { useChange, useUndo } from '@/api/queries'
import { counted } from '@/quantities/count'
import { useMessages } from '@/controls/messages'

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

/** Reading a gear file: chosen, mapped, looked at, written. */
export function useImport() {
  const { done } = useMessages()
  const undo = useUndo()
  const name = ref('')
  const preview = ref<FilePreview | null>(null)
  const refusal = ref('')
  const asked = reactive<FileHow>({ columns: null, unit: null, source: null, systems: {} })
  const chosen = shallowRef(new File([], ''))

  let looks = 0
  async function look() {
    refusal.value = ''
    const look = ++looks
    try {
      const seen = await take(api.POST('/api/files/gear/preview', sent(chosen.value, { ...asked })))
      // What was mapped in the meantime is looked at by a later look.
      if (look !== looks) return
      preview.value = seen
      asked.columns = seen.columns.map((column) => column.holds ?? null)
    } catch (error) {
      if (look === looks) refusal.value = error instanceof Error ? error.message : String(error)
    }
  }

  const write = useChange((how: FileHow) => takeChanged(api.POST('/api/files/gear', sent(chosen.value, how))))

  return {
    name,
    preview,
    refusal,
    asked,
    look,
    open: async (file: File) => {
      name.value = file.name
      preview.value = null
      chosen.value = file
      Object.assign(asked, { columns: null, unit: null, source: null, systems: {} })
      await look()
    },
    /** Says what a column holds; a column of ours is held by one of the file's. */
    map: async (at: number, holds: string | null) => {
      asked.columns = (asked.columns ?? []).map((held, other) =>
        other === at ? holds : held === holds ? null : held,
      )
      await look()
    },
    write: async () => {
      refusal.value = ''
      try {
        const read = await write.mutateAsync({ ...asked })
        const { added, changed, refused } = read.value
        done(`${name.value}: ${added} added, ${changed} changed, ${refused} refused.`, undo(read))
        preview.value = null
        name.value = ''
      } catch (error) {
        refusal.value = error instanceof Error ? error.message : String(error)
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
    takeChanged(api.POST('/api/files/account', { body: text, bodySerializer: (text) => text })),
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
        refusal.value = `${file.name} is not JSON. Choose a kevyt-account.json that was written here.`
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
        refusal.value = error instanceof Error ? error.message : String(error)
      }
    },
    drop: () => (backup.value = null),
  }
}
