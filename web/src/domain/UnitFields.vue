<script setup lang="ts">
import type { MassSystem } from '@/quantities/mass'

const mass = defineModel<MassSystem>('mass', { required: true })
const currency = defineModel<string>('currency', { required: true })

const systems: { key: MassSystem; name: string }[] = [
  { key: 'metric', name: 'grams and kilograms' },
  { key: 'pounds_and_ounces', name: 'ounces, pounds and ounces' },
  { key: 'decimal_pounds', name: 'ounces and decimal pounds' },
]
const currencies = ['EUR', 'USD', 'GBP', 'CHF', 'SEK', 'NOK', 'DKK', 'PLN', 'CZK', 'CAD', 'AUD', 'NZD', 'JPY']
</script>

<template>
  <div class="units">
    <el-form-item label="Weights in">
      <el-select v-model="mass" aria-label="Weights in">
        <el-option v-for="system in systems" :key="system.key" :value="system.key" :label="system.name" />
      </el-select>
    </el-form-item>
    <el-form-item label="Money in">
      <el-select v-model="currency" aria-label="Money in" filterable allow-create default-first-option>
        <el-option v-for="code in currencies" :key="code" :value="code" :label="code" />
      </el-select>
    </el-form-item>
  </div>
</template>

<style scoped>
.units {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 110px;
  gap: 0 var(--s-3);
  width: 100%;
}
</style>
