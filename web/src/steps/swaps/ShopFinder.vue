<script setup lang="ts">
// Things found in the shop: one of them fills in what goes on. What the maker says it weighs is the maker's word.
import { useQuery } from '@tanstack/vue-query'
import { useDebounceFn } from '@vueuse/core'
import { ref, shallowRef } from 'vue'
import { api, unwrap, type Offer } from '@/api/client'
import { vocabularyQuery } from '@/api/queries'
import { reason } from '@/controls/messages'
import type { Sold } from '@/domain/swapDraft'
import { kindName } from '@/domain/kinds'
import { useUnits } from '@/domain/units'
import Figure from '@/marks/Figure.vue'

const emit = defineEmits<{ take: [offer: Offer, price: number, sold: Sold] }>()
const units = useUnits()
const { data: vocabulary } = useQuery(vocabularyQuery)
const typed = ref('')
const found = shallowRef<Offer[] | null>(null)
const trouble = ref('')

async function look() {
  const q = typed.value.trim()
  if (q === '') return (found.value = null)
  try {
    const offers = await unwrap(api.GET('/api/shop', { params: { query: { q } } }))
    if (typed.value.trim() !== q) return undefined
    found.value = offers
    trouble.value = ''
  } catch (error) {
    trouble.value = reason(error)
  }
  return undefined
}
const lookSoon = useDebounceFn(look, 250)
</script>

<template>
  <div class="shop">
    <el-input
      v-model="typed"
      name="shop"
      placeholder="what it is: down quilt, pot, tarp"
      aria-label="Find in the shop"
      @input="lookSoon"
      @keydown.enter.prevent="look"
    />
    <p v-if="trouble" class="caution" role="alert">{{ trouble }}</p>
    <p v-else-if="found?.length === 0" class="muted">No offer matches “{{ typed.trim() }}”.</p>
    <ul v-else-if="found" class="rows" aria-label="Offers">
      <li v-for="offer in found" :key="offer.code">
        <span
          >{{ offer.name
          }}<small class="muted"
            ><template v-if="offer.was_minor">was {{ units.moneyText(offer.was_minor) }}, on sale. </template
            ><template v-if="offer.stock === 0">None left new. </template
            ><template v-if="offer.kind">{{ kindName(vocabulary, offer.kind) }}, </template
            >{{ offer.code }}</small
          ></span
        >
        <span class="right">
          <Figure v-bind="units.table(offer.weight_mg)" size="text" />
          <el-button
            size="small"
            :disabled="offer.stock === 0"
            @click="emit('take', offer, offer.price_minor, offer.was_minor ? 'sale' : 'new')"
            >{{ units.moneyText(offer.price_minor) }}</el-button
          >
          <el-button
            v-if="offer.used_minor != null"
            size="small"
            @click="emit('take', offer, offer.used_minor, 'used')"
            >used {{ units.moneyText(offer.used_minor) }}</el-button
          >
        </span>
      </li>
    </ul>
  </div>
</template>

<style scoped>
.shop {
  width: 100%;
}
ul {
  margin: 0;
  padding: 0;
  list-style: none;
  max-height: 300px;
  overflow-y: auto;
}
small {
  display: block;
  font-size: var(--text-s);
}
.right {
  display: flex;
  flex-wrap: wrap;
  justify-content: flex-end;
  align-items: center;
  gap: var(--s-1) var(--s-2);
}
.right :deep(.el-button) {
  margin-left: 0;
}
</style>
