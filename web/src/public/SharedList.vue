<script setup lang="ts">
// A list as its link opens it: to read, without an account; or to join it as a walker. Nothing here can be changed.
import { useQuery } from '@tanstack/vue-query'
import { computed, provide, ref } from 'vue'
import { api, unwrap, type Account } from '@/api/client'
import Loaded from '@/controls/Loaded.vue'
import { reason } from '@/controls/messages'
import { SHOWN_IN } from '@/domain/units'
import { resetToSignIn } from '@/api/session'
import SignIn from '@/shell/SignIn.vue'
import SignInAgain from '@/shell/SignInAgain.vue'
import SharedSheet from './SharedSheet.vue'

const props = defineProps<{ secret: string; account: Account | null | undefined }>()
const {
  data: shared,
  error,
  refetch,
} = useQuery({
  queryKey: ['shared', props.secret],
  queryFn: () => unwrap(api.GET('/api/shared/{secret}', { params: { path: { secret: props.secret } } })),
  retry: false,
})
provide(
  SHOWN_IN,
  computed(() => ({
    mass: shared.value?.mass ?? 'metric',
    currency: shared.value?.currency ?? 'EUR',
    currency_decimals: shared.value?.currency_decimals ?? 2,
  })),
)

const refusal = ref('')
async function join() {
  try {
    const list = await unwrap(api.POST('/api/joined', { body: { secret: props.secret } }))
    window.location.assign(`/lists/${list.id}/list/together`)
  } catch (error) {
    refusal.value = reason(error)
  }
}
const isGone = computed(() => error.value !== null && 'status' in error.value && error.value.status === 404)
</script>

<template>
  <main class="shared">
    <div v-if="isGone" class="empty card">
      <h1 tabindex="-1">This link no longer works</h1>
      <p>It was revoked, used, or has come to its end. Ask whoever sent it for another one.</p>
      <p><a class="link" href="/">To Kevyt</a></p>
    </div>
    <Loaded v-else what="The list" :known="shared !== undefined" :error="error" :rows="10" @retry="refetch">
      <template v-if="shared">
        <section v-if="shared.seat" class="card seat" aria-label="Join">
          <h2>
            {{ shared.sheet.walkers[shared.sheet.me]?.name ?? shared.sheet.owner }} invites you to walk along
            as
            {{ shared.seat }}
          </h2>
          <p>
            You put your own gear on this list, and see each other’s things and weights; prices only if you
            show them. You can leave at any time.
          </p>
          <el-button v-if="account" type="primary" @click="join">Join as {{ shared.seat }}</el-button>
          <p v-if="refusal" class="caution" role="alert">{{ refusal }}</p>
        </section>
        <SignIn v-if="shared.seat && account === null" />
        <SharedSheet v-else :sheet="shared.sheet" />
      </template>
    </Loaded>
    <SignInAgain v-if="account" @leave="resetToSignIn" />
  </main>
</template>

<style scoped>
.shared {
  max-width: 1200px;
  margin: 0 auto;
  padding: var(--s-5);
}
.shared {
  /* Below an invitation the door stands close. */
  --door: 60vh;
}
.seat {
  margin-bottom: var(--s-5);
}
@media (max-width: 700px) {
  .shared {
    padding: var(--s-3);
  }
}
</style>
