<script setup lang="ts">
import Dialog from 'primevue/dialog'
import { onMounted, useTemplateRef } from 'vue'
import { terms } from '@iron-hush/core/words'
import { useView } from '../state/view'

/** The terms, explained; the one that was asked for is in sight. */
const view = useView()
const rows = useTemplateRef('rows')
onMounted(() =>
  setTimeout(() => {
    const at = terms.findIndex(({ name }) => name === view.term)
    rows.value?.[at]?.scrollIntoView({ block: 'center' })
  }),
)
</script>

<template>
  <Dialog
    visible
    modal
    header="Terms"
    :style="{ width: 'min(620px, 96vw)' }"
    dismissable-mask
    @update:visible="view.open = undefined"
  >
    <dl>
      <div v-for="each in terms" :key="each.name" ref="rows" :class="{ asked: each.name === view.term }">
        <dt>{{ each.name }}</dt>
        <dd>{{ each.means }}</dd>
      </div>
    </dl>
  </Dialog>
</template>

<style scoped>
dl {
  margin: 0;
}
div {
  display: grid;
  grid-template-columns: minmax(90px, 130px) 1fr;
  gap: 4px 14px;
  padding: 7px 8px;
  border-top: 1px solid var(--rule);
}
.asked {
  background: var(--brass-wash);
}
dt {
  font-weight: 650;
}
dd {
  margin: 0;
}
</style>
