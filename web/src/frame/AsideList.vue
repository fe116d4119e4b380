<script setup lang="ts">
import { asideWords, type SetAside, useSetAside } from '../sync/set-aside'
import { download } from '../state/download'

/** Changes that the server refused for good: what it said, and what one wants to do with each. */
const aside = useSetAside()
const save = (each: SetAside) =>
  download(JSON.stringify(each, null, 2), `refused-${each.parcel.id}.json`, 'application/json')
</script>

<template>
  <section v-if="aside.list.length" class="aside" aria-label="Refused changes">
    <div v-for="each in aside.list" :key="each.parcel.id">
      <p><b>{{ asideWords(each) }} was refused.</b> {{ each.sentence }}</p>
      <details>
        <summary>What it holds</summary>
        <pre>{{ JSON.stringify(each.parcel.errand, null, 1) }}</pre>
      </details>
      <button type="button" @click="save(each)">Export</button>
      <button type="button" @click="aside.drop(each)">Discard</button>
    </div>
  </section>
</template>

<style scoped>
.aside {
  display: grid;
  gap: 8px;
  max-height: 60vh;
  overflow: auto;
}
.aside > div {
  background: var(--sheet);
  border: 1px solid var(--ink);
  border-left: 5px solid var(--iron);
  border-radius: 2px;
  padding: 8px 10px;
}
pre {
  font: var(--small) var(--figures);
  max-height: 30vh;
  overflow: auto;
  white-space: pre-wrap;
}
button {
  border: 0;
  background: none;
  padding: 2px 12px 2px 0;
  cursor: pointer;
  text-decoration: underline;
  text-underline-offset: 3px;
}
</style>
