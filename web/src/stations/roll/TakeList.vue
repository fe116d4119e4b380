<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Take } from '@iron-hush/core/model'
import { clock } from '@iron-hush/core/units'
import ChangeList from '../../parts/ChangeList.vue'
import { useTakeParts } from '../../state/take-parts'
import { useTakes } from '../../state/takes'
import TakeEdit from './TakeEdit.vue'

/** The takes of the scene, the last first, each with its marks and its verdict. */
defineProps<{ lengthOf: (take: Take) => number }>()
const takes = useTakes()
const { changedBetween } = useTakeParts()
/** Most changes listed, so that the next take stays on the screen; the sound report has all of them. */
const mostChanges = 3
/** The last first, each with what changed since the one before. */
const listed = computed(() => {
  const inOrder = [...takes.list].sort((one, other) => one.number - other.number)
  return inOrder
    .map((take, index) => {
      const before = inOrder[index - 1]
      return { take, before: before?.number, changes: before ? changedBetween(before, take) : [] }
    })
    .reverse()
})
/** The take whose corrections stand open. */
const edited = ref<string>()
</script>

<template>
  <ol class="list" aria-label="Takes">
    <li v-for="{ take, before, changes } in listed" :key="take.id">
      <button
        type="button"
        class="number"
        :aria-expanded="edited === take.id"
        :aria-label="`Correct take ${take.number}`"
        @click="edited = edited === take.id ? undefined : take.id"
      >
        {{ take.number }}
      </button>
      <span class="figure">{{ clock(lengthOf(take)) }}</span>
      <span class="quiet"
        >{{ take.marks.length }} mark{{ take.marks.length === 1 ? '' : 's'
        }}{{
          take.marks.length ? `: ${[...new Set(take.marks.map(({ kind }) => kind))].join(', ')}` : ''
        }}</span
      >
      <span class="verdicts" role="group" :aria-label="`Verdict on take ${take.number}`">
        <button
          v-for="verdict in ['good', 'not good'] as const"
          :key="verdict"
          type="button"
          :aria-pressed="take.verdict === verdict"
          @click="takes.change(take, { verdict: take.verdict === verdict ? 'open' : verdict }, 'the verdict')"
        >
          {{ verdict }}
        </button>
      </span>
      <p v-if="take.note && edited !== take.id" class="quiet said">{{ take.note }}</p>
      <ChangeList
        v-if="changes.length"
        class="said"
        :since="`Since take ${before}`"
        :changes
        :most="mostChanges"
      />
      <TakeEdit v-if="edited === take.id" :take />
    </li>
  </ol>
</template>

<style scoped>
.list {
  list-style: none;
  margin: 0;
  padding: 0;
}
.list li {
  border-top: 1px solid var(--rule);
  padding: 10px 2px;
}
.list li {
  display: grid;
  grid-template-columns: 44px 60px 1fr auto;
  align-items: center;
  gap: 8px;
}
.verdicts button {
  border: 1px solid var(--rule);
  background: none;
  min-height: 44px;
  padding: 6px 10px;
  margin-left: -1px;
  font-stretch: 85%;
  cursor: pointer;
}
.number {
  min-height: 44px;
  border: 1px solid var(--rule);
  border-radius: 2px;
  background: none;
  font-weight: 650;
  cursor: pointer;
}
.said {
  grid-column: 2 / -1;
  overflow-wrap: anywhere;
}
.verdicts [aria-pressed='true'] {
  background: var(--ink);
  color: var(--sheet);
}
</style>
