<script setup lang="ts">
import { useSession } from '~/stores/session'

/** The head of every page of figures. */
defineProps<{ title: string }>()
const session = useSession()
const pages = computed(() => [
  ...session.may('readFigures')
    ? [{ title: 'Reports', to: '/figures' }, { title: 'Look ahead', to: '/figures/ahead' }, { title: 'Watching', to: '/watch' }]
    : [],
  ...session.may('keepCharges') ? [{ title: 'Charges', to: '/charges' }] : [],
])
</script>

<template>
  <FamilyHead
    :title="title"
    family="Figures"
    :pages="pages"
  />
</template>
