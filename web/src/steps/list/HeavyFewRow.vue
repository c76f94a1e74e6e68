<script setup lang="ts">
// What the heavy few weigh, and the class of the base weight; how both are counted is a setting.
import { computed } from 'vue'
import { useSettings } from '@/domain/settings'
import { useUnits } from '@/domain/units'
import TypedField from '@/controls/TypedField.vue'

const props = defineProps<{ grams: number; base: number; classAt: number }>()
const units = useUnits()
const { settings, set, typed } = useSettings()
const share = computed(() => (props.base > 0 ? Math.round((props.grams * 100) / props.base) : 0))
const few = computed(() => (settings.value?.heavy_four ? 'four' : 'three'))
const under = computed(() => settings.value?.class_mg ?? [])
const inClass = computed(() => {
  const round = (at: number) => `${classes.value.at(at) ?? 0} ${units.scale.value.name}`
  return props.classAt < under.value.length ? `under ${round(props.classAt)}` : `above ${round(-1)}`
})
const NAMES = ['Lightest class, under', 'Next class, under', 'Third class, under']
const classes = computed(() =>
  under.value.map((mg) => String(Number((mg / units.scale.value.mg).toFixed(2)))),
)
const saveClass = (at: number) => (text: string) =>
  typed({ classes: classes.value.map((one, i) => (i === at ? text : one)) })
</script>

<template>
  <el-popover trigger="click" placement="left" width="260" :persistent="false">
    <template #reference>
      <el-button link class="row" data-print title="How these are counted"
        ><span>The heavy {{ few }}</span
        ><b>{{ units.totalText(grams) }}, {{ share }} %</b></el-button
      >
    </template>
    <el-checkbox
      :model-value="settings?.heavy_four ?? false"
      label="The pad is one of them"
      @change="(on: unknown) => set({ heavy_four: on === true })"
    />
    <el-checkbox
      :model-value="settings?.small_parts ?? false"
      label="With their small parts"
      @change="(on: unknown) => set({ small_parts: on === true })"
    />
    <el-form label-position="top" size="small" @submit.prevent>
      <TypedField
        v-for="(text, at) in classes"
        :key="at"
        :label="NAMES[at] ?? ''"
        :text="text"
        :unit="units.scale.value.name"
        :save="saveClass(at)"
      />
    </el-form>
  </el-popover>
  <p class="row">
    <span>Class of base weight</span><b>{{ inClass }}</b>
  </p>
</template>

<style scoped>
.row {
  width: 100%;
  margin: 0;
  padding: var(--s-0h) 0;
  border: 0;
  height: auto;
  font-weight: 400;
}
.row,
.row :deep(> span) {
  display: flex;
  justify-content: space-between;
  gap: var(--s-2);
  width: 100%;
}
b {
  flex: none;
  font-weight: 650;
}
</style>
