/** Puts the focus on the title of the page: where it goes when what had it is left or gone, so that it never falls to the page. */
export const focusTitle = () => document.querySelector<HTMLElement>('main h1')?.focus({ preventScroll: true })
