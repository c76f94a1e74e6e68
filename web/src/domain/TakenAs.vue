<script setup lang="ts">
// What a thing of this name is taken as when it is added.
import { useProposedKind } from './proposedKind'

const props = defineProps<{ name: string }>()
const proposed = useProposedKind(() => props.name)
</script>

<template>
  <span v-if="proposed" class="muted">taken as {{ proposed.name }}</span>
</template>
