import { useElementSize } from '@vueuse/core'
import { computed, type Ref } from 'vue'

/** How much larger than usual the browser's text is: drawings are drawn as much larger. */
export const zoom = parseFloat(getComputedStyle(document.documentElement).fontSize) / 16 || 1

/** The size of a drawing in its own units, as its `svg` has it. */
export const sized = (width: number, height: number, left = 0) => ({
  width: width * zoom,
  height: height * zoom,
  viewBox: `${left} 0 ${width} ${height}`,
})

/** The room that a drawing has in its frame, in its own units, and where in it somebody points. */
export function useRoom(frame: Readonly<Ref<HTMLElement | null>>) {
  const { width } = useElementSize(frame)
  return {
    width: computed(() => width.value / zoom),
    at: ({ clientX, clientY }: MouseEvent) => {
      const { left, top } = frame.value!.getBoundingClientRect()
      return { x: (clientX - left) / zoom, y: (clientY - top) / zoom }
    },
  }
}
