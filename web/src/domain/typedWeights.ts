import { computed } from 'vue'
import { useSettings } from './settings'

/** Where weights come from that are merely typed: said once, changed at any time. */
export function useTypedWeights() {
  const { settings, set: change } = useSettings()
  const chosen = computed(() => settings.value?.typed_weights ?? null)
  const source = computed(() => chosen.value ?? 'maker')
  const set = (typed_weights: 'maker' | 'weighed') =>
    change(
      { typed_weights },
      `Weights that you type are ${typed_weights === 'maker' ? 'the maker’s figures' : 'weighed by you'} from now on.`,
    )

  return {
    /** What counts for a weight that does not say it. */
    source,
    /** Whether the walker has said so. */
    asked: computed(() => chosen.value !== null),
    set,
    /** The other one, from now on. */
    turn: () => set(source.value === 'maker' ? 'weighed' : 'maker'),
  }
}
