<script setup lang="ts">
import { seesCallers } from '~~/shared/roles'
import { useSession } from '~/stores/session'

/** The head of every page of what calls have been; the log itself stands above, on every page. */
defineProps<{ title: string }>()
const session = useSession()
const pages = computed(() => [
  ...session.may('readParkings') ? [{ title: 'Parkings', to: '/parkings' }] : [],
  ...session.me && seesCallers(session.me.role) ? [{ title: 'Blocked numbers', to: '/blocked' }] : [],
])
</script>

<template>
  <FamilyHead
    :title="title"
    family="Calls that were"
    :pages="pages"
  />
</template>
