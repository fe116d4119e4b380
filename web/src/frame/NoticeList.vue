<script setup lang="ts">
import AsideList from './AsideList.vue'
import { useNotices } from '../state/notices'

const notices = useNotices()
</script>

<template>
  <div class="notices" role="status" aria-live="polite">
    <AsideList />
    <div v-for="notice in notices.list" :key="notice.id" class="message notice">
      <span>
        {{ notice.text }}
        <button v-if="notice.offer" type="button" class="offer" @click="notice.offer.act()">
          {{ notice.offer.name }}
        </button>
      </span>
      <button type="button" aria-label="Close" @click="notices.dismiss(notice.id)">&times;</button>
    </div>
  </div>
</template>

<style scoped>
/* a row of its own above the verdict: nothing lies under it that cannot be reached */
.notices {
  position: relative;
  z-index: 30;
  display: grid;
  justify-items: start;
  max-height: 45dvh;
  overflow: auto;
}
.notices > * {
  margin: 0 18px 8px;
  max-width: 760px;
}
.notice {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 10px;
}
.offer {
  text-decoration: underline;
}
button {
  border: 0;
  background: none;
  cursor: pointer;
  align-self: start;
}
</style>
