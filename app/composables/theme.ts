import { useColorMode } from '@vueuse/core'

/** Light, dark, or as the machine prefers; remembered in this browser. */
export function useTheme() {
  const mode = useColorMode({ storageKey: 'estafette-theme', modes: { light: 'light', dark: 'dark' } })
  const isDark = computed(() => mode.value === 'dark')
  const toggle = () => {
    mode.value = isDark.value ? 'light' : 'dark'
  }
  return { isDark, toggle }
}
