<script setup lang="ts">
// The links that open a list: made, copied while this page knows their address, revoked.
import { ref } from 'vue'
import type { Sheet } from '@/api/client'
import { reason, useMessages } from '@/controls/messages'
import type { Together } from './together'

const props = defineProps<{ sheet: Sheet; together: Together }>()
const { done, failed } = useMessages()
const { addresses } = props.together
const prices = ref(false)
const days = ref('')
const refusal = ref('')

async function make() {
  const typed = days.value.trim()
  refusal.value = ''
  if (!/^\d*$/.test(typed)) {
    refusal.value = `“${typed}” is not read as days. Type a whole number from 1 to 3650, or nothing.`
    return
  }
  try {
    await props.together.makeLink(
      { shows_prices: prices.value, ...(typed && { days: Number(typed) }) },
      'Link made. Copy it now: it is shown only here.',
    )
  } catch (error) {
    refusal.value = reason(error)
  }
}
async function copy(id: string) {
  try {
    await navigator.clipboard.writeText(addresses.value[id]!)
    done('Link copied.')
  } catch {
    failed(new Error('The browser does not let Kevyt copy here. Choose the link and copy it yourself.'))
  }
}
const when = (at: string) => new Date(at).toLocaleDateString()
const named = (walker: string) => props.sheet.walkers.find((one) => one.id === walker)?.name ?? ''
const opens = ({ walker, shows_prices }: Sheet['links'][number]) =>
  walker ? `To join as ${named(walker)}` : shows_prices ? 'To read, with prices' : 'To read'
</script>

<template>
  <section class="card links" aria-label="Links">
    <h2>Links that open this list</h2>
    <p class="muted">
      Whoever has the link reads the list, without an account. Without prices unless you say so.
    </p>
    <form class="row" @submit.prevent="make">
      <el-checkbox v-model="prices" label="With prices" />
      <el-form-item :error="refusal">
        <el-input
          v-model="days"
          size="small"
          placeholder="days, or until revoked"
          aria-label="Days it opens"
          inputmode="numeric"
        />
      </el-form-item>
      <el-button size="small" native-type="submit">Make a link to read</el-button>
    </form>
    <p v-for="link in sheet.links" :key="link.id" class="row">
      <span
        >{{ opens(link) }}, made {{ when(link.made_at)
        }}{{ link.expires_at ? `, until ${when(link.expires_at)}` : '' }}</span
      >
      <template v-if="addresses[link.id]">
        <el-input size="small" readonly :model-value="addresses[link.id]" aria-label="The link" data-link />
        <el-button size="small" @click="copy(link.id)">Copy</el-button>
      </template>
      <el-button size="small" @click="together.revoke(link.id)">Revoke</el-button>
    </p>
  </section>
</template>

<style scoped>
.links {
  margin-top: var(--s-3h);
  padding: var(--s-3) var(--s-4);
}
h2 {
  font-size: var(--text-ml);
  margin: 0 0 var(--s-1h);
}
.row {
  display: flex;
  flex-wrap: wrap;
  gap: var(--s-2h);
  align-items: center;
  margin: var(--s-2) 0;
}
.row :deep(.el-form-item) {
  margin: 0;
}
.row :deep(form .el-input) {
  width: 190px;
}
p.row :deep(.el-input) {
  width: 320px;
}
</style>
