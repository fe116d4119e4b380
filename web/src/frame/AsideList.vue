<script setup lang="ts">
import { listUnreadable, type Unreadable } from '@iron-hush/core/contract'
import { computed, onMounted, ref } from 'vue'
import { ask } from '../sync/ask'
import { newId } from '../sync/new-id'
import { useOutbox } from '../sync/outbox'
import { asideWords, kindWords, type SetAside, useSetAside } from '../sync/set-aside'
import { download } from '../state/download'

/** Changes that the server refused for good, and unreadable documents, for inspection and export. */
const aside = useSetAside()
const unreadable = ref<Unreadable[]>([])
const closed = ref(new Set<string>())
const shownUnreadable = computed(() => unreadable.value.filter(({ id }) => !closed.value.has(id)))
onMounted(async () => (unreadable.value = await ask(listUnreadable).catch(() => [])))
const saveUnreadable = (each: Unreadable) =>
  download(JSON.stringify(each.content, null, 2), `unreadable-${each.id}.json`, 'application/json')
const save = (each: SetAside) =>
  download(JSON.stringify(each, null, 2), `refused-${each.parcel.id}.json`, 'application/json')
/** Reapplied to the server's present version. */
function sendAgain(each: SetAside): void {
  const { place, errand } = each.parcel
  useOutbox().post(place, errand.do === 'edit' ? { ...errand, change: newId() } : errand)
  aside.drop(each)
}
</script>

<template>
  <section
    v-if="aside.list.length + shownUnreadable.length"
    class="aside"
    aria-label="Refused and unreadable"
  >
    <div v-for="each in shownUnreadable" :key="each.id" class="message">
      <p>
        <b>{{ kindWords[each.kind] }} cannot be read by this release.</b> {{ each.why }} It is kept as it is.
      </p>
      <button type="button" @click="saveUnreadable(each)">Export</button>
      <button type="button" @click="closed.add(each.id)">Close</button>
    </div>
    <div v-for="each in aside.list" :key="each.parcel.id" class="message">
      <p>
        <b>{{ asideWords(each) }} {{ each.why === 'restored' ? 'is different there' : 'was refused' }}.</b>
        {{ each.sentence }}
      </p>
      <details>
        <summary>What it holds</summary>
        <pre>{{ JSON.stringify(each.parcel.errand, null, 1) }}</pre>
      </details>
      <button type="button" @click="sendAgain(each)">
        {{ each.why === 'restored' ? 'Store this one' : 'Send again' }}
      </button>
      <button type="button" @click="save(each)">Export</button>
      <button type="button" @click="aside.drop(each)">Discard</button>
    </div>
  </section>
</template>

<style scoped>
.aside {
  display: grid;
  gap: 8px;
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
