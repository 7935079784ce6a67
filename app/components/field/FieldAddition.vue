<script setup lang="ts">
import { useDesk } from '~/stores/desk'
import { useField } from '~/stores/field'
import { useLive } from '~/stores/live'
import { useWays } from '~/stores/ways'

/** What can be sent along: a line of text with a call that is passed on, an account code with one that is dialled. */
const desk = useDesk()
const field = useField()
const live = useLive()
const ways = useWays()
const codes = computed(() => Object.values(live.company?.accountCodes ?? {}))
const dials = computed(() => field.ways[0]?.id === 'call' && !field.best)
const takeFirst = () => field.ways[0] && field.take(field.ways[0])
</script>

<template>
  <el-input
    v-if="desk.baton"
    v-model="ways.note"
    size="small"
    maxlength="120"
    :placeholder="t('field.aLineToSendAlong')"
    :aria-label="t('field.aLineOfTextTo')"
    @keydown.enter.prevent="takeFirst"
  />
  <template v-else-if="dials">
    <el-input
      v-model="ways.account"
      size="small"
      maxlength="24"
      :placeholder="t('field.accountCodeIfWanted')"
      :aria-label="t('field.accountCodeForThisCall')"
      list="account-codes"
      @keydown.enter.prevent="takeFirst"
    />
    <datalist id="account-codes">
      <option
        v-for="{ id, code, name } in codes"
        :key="id"
        :value="code"
        :label="name"
      />
    </datalist>
  </template>
</template>
