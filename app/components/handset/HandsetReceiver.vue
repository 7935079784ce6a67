<script setup lang="ts">
/** The receiver over the telephone: in its cradle, ringing, or lifted. For the eye alone. */
defineProps<{ state: 'down' | 'rings' | 'lifted' }>()
</script>

<template>
  <svg
    viewBox="0 0 280 64"
    aria-hidden="true"
    :class="['receiver', state]"
  >
    <path
      d="M14 62 H266 V50 C266 44 262 42 256 42 H24 C18 42 14 44 14 50 Z"
      class="cradle"
    />
    <path
      d="M12 22 C12 12 20 8 30 8 H64 C76 8 80 14 88 14 H192 C200 14 204 8 216 8 H250 C260 8 268 12 268 22 V44 C268 50 264 52 258 52 H214
        C206 52 206 46 204 40 C202 34 198 32 192 32 H88 C82 32 78 34 76 40 C74 46 74 52 66 52 H22 C16 52 12 50 12 44 Z"
      class="piece"
    />
    <g
      v-if="state === 'rings'"
      class="waves"
    >
      <path d="M106 8 Q140 -8 174 8" />
      <path d="M118 4 Q140 -6 162 4" />
    </g>
  </svg>
</template>

<style scoped>
.receiver {
  display: block;
  width: 100%;
  overflow: visible;
}

.cradle {
  fill: var(--edge-strong);
}

.piece {
  fill: var(--ink);
  transform-origin: 30% 50%;
  transition: transform var(--quick);
}

.lifted .piece {
  transform: translateY(-10px) rotate(-4deg);
}

.waves path {
  fill: none;
  stroke: var(--call);
  stroke-width: 3;
  stroke-linecap: round;
}
</style>
