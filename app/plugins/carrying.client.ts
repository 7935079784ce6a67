import type { DragLocationHistory } from '@atlaskit/pragmatic-drag-and-drop/types'
import type { ObjectDirective } from 'vue'

type Dragging = typeof import('@atlaskit/pragmatic-drag-and-drop/element/adapter')
type Dropping = HTMLElement & { stopTarget?: () => void, stopSource?: () => void, target?: string, call?: string }

let fetched: Promise<Dragging>

/** Takes part in dragging as soon as that has been fetched, unless it was ended before. */
function part(begin: (dragging: Dragging) => () => void): () => void {
  let ended = false
  let stop: (() => void) | undefined
  void fetched.then((dragging) => {
    if (!ended) stop = begin(dragging)
  })
  return () => {
    ended = true
    stop?.()
  }
}

/** v-call-target="id": a dragged call can be dropped here. */
const callTarget: ObjectDirective<Dropping, string> = {
  mounted(element, { value }) {
    element.target = value
    element.stopTarget = part(({ dropTargetForElements }) => dropTargetForElements({ element, getData: () => ({ target: element.target }) }))
  },
  updated(element, { value }) {
    element.target = value
  },
  unmounted: element => element.stopTarget?.(),
}

/** v-call-source="call id": this can be dragged; null while it can't. */
const callSource: ObjectDirective<Dropping, string | null> = {
  mounted(element, { value }) {
    element.call = value ?? undefined
    element.stopSource = part(({ draggable }) =>
      draggable({ element, canDrag: () => element.call !== undefined, getInitialData: () => ({ call: element.call }) }))
  },
  updated(element, { value }) {
    element.call = value ?? undefined
  },
  unmounted: element => element.stopSource?.(),
}

interface Place { index: number, move: (from: number, to: number) => unknown }
type Placed = HTMLElement & { place?: Place, unplace?: () => void }

/** v-key-place="{ index, move }": can be dragged among its like, to where one of them stands. */
const keyPlace: ObjectDirective<Placed, Place> = {
  mounted(element, { value }) {
    element.place = value
    element.unplace = part(({ draggable, dropTargetForElements }) => {
      const source = draggable({ element, getInitialData: () => ({ keyPlace: element.place?.index }) })
      const target = dropTargetForElements({
        element,
        canDrop: ({ source }) => typeof source.data.keyPlace === 'number',
        onDrop: ({ source }) => element.place?.move(source.data.keyPlace as number, element.place.index),
      })
      return () => {
        source()
        target()
      }
    })
  },
  updated(element, { value }) {
    element.place = value
  },
  unmounted: element => element.unplace?.(),
}

export default defineNuxtPlugin((nuxt) => {
  nuxt.vueApp.directive('key-place', keyPlace)
  nuxt.vueApp.directive('call-target', callTarget)
  nuxt.vueApp.directive('call-source', callSource)
  fetched = later(() => import('@atlaskit/pragmatic-drag-and-drop/element/adapter'))
  const carrying = useCarrying()
  const pointed = ({ current: { dropTargets, input } }: DragLocationHistory) =>
    ({ target: (dropTargets[0]?.data.target as string | undefined) ?? null, shift: input.shiftKey, x: input.clientX, y: input.clientY })
  part(({ monitorForElements }) => monitorForElements({
    canMonitor: ({ source }) => typeof source.data.call === 'string',
    onDragStart: ({ source }) => carrying.begin(source.data.call as string),
    onDropTargetChange: ({ location }) => carrying.hover(pointed(location)),
    onDrag: ({ location }) => carrying.hover(pointed(location)),
    onDrop: ({ location }) => carrying.end(pointed(location)),
  }))
})
