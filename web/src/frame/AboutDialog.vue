<script setup lang="ts">
import Dialog from 'primevue/dialog'
import { useView } from '../state/view'

/** What this application is, where it keeps data, and the usual caution. */
const view = useView()
const release = __RELEASE__
</script>

<template>
  <Dialog
    visible
    modal
    header="About Iron Hush"
    :style="{ width: 'min(520px, 96vw)' }"
    dismissable-mask
    @update:visible="view.open = undefined"
  >
    <p>Release {{ release }}. It plans, balances, proves and logs sound chains into small cameras.</p>
    <p>
      Everything stays on this machine: scenes, takes and measurements in its own database, unsent changes in
      this browser. Clips are read here and never sent anywhere.
    </p>
    <p>
      Figures are computed from the circuit and the makers’ data sheets; where a sheet says nothing, a typical
      figure is used and marked as assumed. Before it matters, try the chain with headphones.
    </p>
    <p class="quiet">
      Loud sound harms hearing: start low. Radio, mains and rigging are subject to local rules; leave them to
      licensed people.
    </p>
    <p class="quiet">MIT licence. Archivo and Martian Mono under the SIL Open Font License.</p>
  </Dialog>
</template>

<style scoped>
p + p {
  margin-top: 10px;
}
</style>
