import type { ObjectDirective } from 'vue'

// Dragging is a short cut for what keys and taps do too. What is dragged is known by a text.

/** Lets an element be dragged as a text. */
export const vDrag: ObjectDirective<HTMLElement, string> = {
  mounted(element, { value }) {
    element.draggable = value !== ''
    element.dataset.dragged = value
    element.addEventListener('dragstart', (event) =>
      event.dataTransfer?.setData('text/plain', element.dataset.dragged ?? ''),
    )
  },
  updated(element, { value }) {
    element.draggable = value !== ''
    element.dataset.dragged = value
  },
}

type Dropped = (text: string, event: DragEvent) => void
const takes = new WeakMap<HTMLElement, Dropped>()

/** Takes what is dropped on an element, which has the class `over` while something hangs over it. */
export const vDrop: ObjectDirective<HTMLElement, Dropped> = {
  mounted(element, { value }) {
    takes.set(element, value)
    const over = (event: DragEvent, is: boolean) => {
      event.preventDefault()
      event.stopPropagation()
      element.classList.toggle('over', is)
    }
    element.addEventListener('dragover', (event) => over(event, true))
    element.addEventListener('dragleave', (event) => over(event, false))
    element.addEventListener('drop', (event) => {
      over(event, false)
      takes.get(element)?.(event.dataTransfer?.getData('text/plain') ?? '', event)
    })
  },
  updated: (element, { value }) => takes.set(element, value),
}
