<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import type { Take } from '@iron-hush/core/model'
import { markName } from '@iron-hush/core/report'
import { clock } from '@iron-hush/core/units'
import ChangeList from '../../parts/ChangeList.vue'
import NumberField from '../../parts/NumberField.vue'
import { useNotices } from '../../state/notices'
import { useTakeParts } from '../../state/take-parts'
import { useTakes } from '../../state/takes'

/** A take that is over, corrected: its number, its note, its marks; or deleted. */
const props = defineProps<{ take: Take }>()
const takes = useTakes()
const { changedSince, editsBackTo, setAsIn } = useTakeParts()
const changes = computed(() => changedSince(props.take))
const canSet = computed(() => editsBackTo(props.take).length > 0)

function renumber(number: number): void {
  const why = takes.numberTaken(props.take, number)
  if (why) useNotices().say(`${why} Nothing was changed.`)
  else takes.change(props.take, { number }, `the number of take ${props.take.number}`)
}
function note(event: Event): void {
  const text = (event.target as HTMLTextAreaElement).value.trim()
  if (text !== props.take.note)
    takes.change(props.take, { note: text }, `the note on take ${props.take.number}`)
}
/** It was set back, and nothing was moved or undone since. */
const wasSet = ref(false)
watch(canSet, (now) => (wasSet.value &&= !now))
function setBack(): void {
  setAsIn(props.take)
  wasSet.value = true
}
const withoutMark = (id: string) => ({ marks: props.take.marks.filter((mark) => mark.id !== id) })
</script>

<template>
  <div class="edit">
    <label class="row">
      <span>Number</span>
      <NumberField
        :model-value="take.number"
        :min="1"
        :max="9999"
        :decimals="0"
        unit=""
        :label="`Number of take ${take.number}`"
        @update:model-value="renumber"
      />
    </label>
    <label class="note">
      <span>Note</span>
      <textarea
        :value="take.note"
        rows="2"
        maxlength="4000"
        :aria-label="`Note on take ${take.number}`"
        @change="note"
      ></textarea>
    </label>
    <ul v-if="take.marks.length" :aria-label="`Marks of take ${take.number}`">
      <li v-for="mark in take.marks" :key="mark.id">
        <span class="figure">{{ clock(mark.atS) }}</span>
        <span>{{ markName(mark.kind) }} <span class="quiet">{{ mark.note }}</span></span>
        <button
          type="button"
          :aria-label="`Delete the mark ${markName(mark.kind)} at ${clock(mark.atS)}`"
          @click="takes.change(take, withoutMark(mark.id), `deleting the mark ${mark.kind}`)"
        >
          Delete
        </button>
      </li>
    </ul>
    <ChangeList v-if="changes.length" since="Since this take" :changes />
    <p v-if="wasSet" class="quiet" role="status">
      The plan is set as in take {{ take.number }}. Turn the boxes themselves too.
    </p>
    <div class="acts">
      <button
        v-if="canSet"
        type="button"
        title="In the plan: the boxes themselves are turned by hand."
        @click="setBack()"
      >
        Set as in take {{ take.number }}
      </button>
      <button type="button" class="remove" @click="takes.remove(take)">Delete take {{ take.number }}</button>
    </div>
  </div>
</template>

<style scoped>
.edit {
  grid-column: 1 / -1;
  display: grid;
  gap: 10px;
  padding: 4px 0 8px;
}
.row,
.note {
  display: grid;
  grid-template-columns: 64px 1fr;
  align-items: center;
  gap: 8px;
}
textarea {
  border: 1px solid var(--rule);
  border-radius: 2px;
  background: var(--sheet);
  padding: 8px;
  font-size: var(--lead);
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
li {
  display: grid;
  grid-template-columns: 64px 1fr auto;
  align-items: center;
  gap: 8px;
  border-top: 1px solid var(--rule);
}
button {
  min-height: 44px;
  padding: 0 14px;
  border: 1px solid var(--rule);
  border-radius: 2px;
  background: none;
  cursor: pointer;
}
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
}
.remove {
  margin-left: auto;
  color: var(--iron);
}
</style>
