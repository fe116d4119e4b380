<script setup lang="ts">
import Button from 'primevue/button'
import { computed } from 'vue'
import { worstRatioDb } from '@iron-hush/core/balance'
import type { Edit } from '@iron-hush/core/edits'
import type { KitOption } from '@iron-hush/core/plan'
import { partNameOf, shelfFor } from '@iron-hush/core/model'
import { decibels } from '@iron-hush/core/units'
import { capital, kitWords, toBuyNames, verdictOf, worstRatioName } from '@iron-hush/core/words'
import { useGear } from '../../state/gear'
import { useScene } from '../../state/scene'
import { useComparing } from './comparing'
import type { Side } from './listening'
import { useReturnFocus } from '../../parts/return-focus'

/** The ways to use this kit on one page, and the current chain as two schools of gain would set it. */
const emit = defineEmits<{ listen: [side: Side] }>()
const scene = useScene()
const gear = useGear()
const shelf = computed(() => shelfFor(scene.openPatch, gear.shelf))
const { kits, groups, tried, stop } = useComparing()

/** Subject of the verdict beside it: the recording with the worst speech-to-noise. */
const shownDb = ({ planned: { run, dead } }: KitOption) =>
  !run || dead ? '\u2014' : decibels(run.speechToNoiseDb)
const ratio = computed(() => worstRatioName(scene.openPatch.brief.sources))
/** With several sources, the verdict says whose it is. */
const several = computed(() => scene.openPatch.brief.sources.length > 1)
const said = ({ planned }: KitOption) =>
  planned.run
    ? `${several.value ? `${planned.run.source.name}: ` : ''}${verdictOf(planned.run, planned.patch.plan)
        .map(({ text }) => text)
        .join('')}`
    : 'No sound: nothing is recorded.'
/** What this way leaves out, and what must be bought for it. */
const boxes = ({ planned: { patch, missing } }: KitOption) => {
  const stays = new Set(patch.boxes.map(({ gear: thing }) => thing))
  const left = scene.openPatch.boxes
    .filter((box) => !stays.has(box.gear))
    .map((box) => partNameOf(box, shelf.value))
  return [
    left.length ? `without ${left.join(', ')}` : '',
    missing.length ? `to buy: ${toBuyNames(missing)}` : '',
  ]
    .filter(Boolean)
    .join('; ')
}
function useKit({ way, planned }: KitOption): void {
  const { patch } = planned
  const edits: Edit[] = [{ kind: 'set wiring', boxes: patch.boxes, links: patch.links }]
  if (patch.plan.counts !== scene.openPatch.plan.counts) edits.push({ kind: 'change plan', to: patch.plan })
  scene.change(edits, kitWords(way).toLowerCase())
}
function listen({ way, planned }: KitOption): void {
  const { run, patch } = planned
  if (run) emit('listen', { name: kitWords(way), patch, end: { box: run.end.box, track: run.end.track } })
}
type Row = (typeof groups.value)[number]['rows'][number]
function use({ changes, name, plan: asked }: Row): void {
  const edits = changes.map(({ part, control, to }): Edit => ({
    kind: 'set control',
    part,
    control,
    position: to,
  }))
  scene.change([...(asked ? [{ kind: 'change plan', to: asked } as const] : []), ...edits], name)
}
useReturnFocus()
</script>

<template>
  <div class="kits">
    <h2>The ways to use this kit</h2>
    <p v-if="tried !== undefined" role="status" class="quiet">
      Each joined, powered and balanced: {{ Math.round(tried * 100) }} %
      <button type="button" @click="stop()">Stop</button>
    </p>
    <table>
      <thead>
        <tr>
          <th scope="col">Way</th>
          <th scope="col">{{ capital(ratio) }}</th>
          <th scope="col">Verdict</th>
          <td></td>
        </tr>
      </thead>
      <tbody>
        <tr v-for="each in kits" :key="kitWords(each.way)">
          <th scope="row">{{ kitWords(each.way) }} <small class="quiet">{{ boxes(each) }}</small></th>
          <td class="figure">{{ shownDb(each) }}</td>
          <td>{{ said(each) }}</td>
          <td class="do">
            <Button
              label="Listen"
              severity="secondary"
              size="small"
              :disabled="!each.planned.run || each.planned.dead > 0"
              :aria-label="`Listen to ${kitWords(each.way)} against the present chain`"
              @click="listen(each)"
            />
            <Button
              label="Use"
              severity="secondary"
              size="small"
              :aria-label="`Use ${kitWords(each.way)}`"
              @click="useKit(each)"
            />
          </td>
        </tr>
      </tbody>
    </table>
    <template v-for="group in groups" :key="group.title">
      <h2>{{ group.title }}</h2>
      <table>
        <thead>
          <tr>
            <th scope="col">School</th>
            <th scope="col">{{ capital(ratio) }}</th>
            <th scope="col">Least headroom</th>
            <td></td>
          </tr>
        </thead>
        <tbody>
          <tr v-for="each in group.rows" :key="each.name">
            <th scope="row">
              {{ capital(each.name) }}
              <small class="quiet">{{ each.how }}{{ each.isNow ? '; the target now' : '' }}</small>
            </th>
            <td class="figure">
              {{ decibels(worstRatioDb(each.score)) }} <span class="named">{{ ratio }}</span>
            </td>
            <td>
              {{ decibels(each.score.headroomDb) }} <span class="named">least headroom</span>
              <span v-if="!each.fits" class="iron">&#9650; does not meet every demand</span>
            </td>
            <td class="do">
              <Button
                label="Use"
                severity="secondary"
                size="small"
                :disabled="each.changes.length === 0 && !each.plan"
                :aria-label="`Use ${each.name}`"
                @click="use(each)"
              />
            </td>
          </tr>
        </tbody>
      </table>
    </template>
  </div>
</template>

<style scoped>
.kits {
  overflow: auto;
  border-bottom: 1px solid var(--rule);
  padding: 10px 18px;
  display: grid;
  gap: 8px;
  align-content: start;
}
h2 {
  margin: 0;
  font-size: var(--body);
}
table {
  border-collapse: collapse;
  width: 100%;
}
tr {
  border-top: 1px solid var(--rule);
}
th,
td {
  text-align: left;
  vertical-align: baseline;
  padding: 5px 12px 5px 0;
  font-weight: 400;
}
thead th {
  color: var(--quiet);
  font-size: var(--small);
}
tbody th {
  font-weight: 650;
}
small {
  font-weight: 400;
}
.figure {
  white-space: nowrap;
}
.do {
  display: flex;
  gap: 6px;
  justify-content: end;
}
p button {
  border: 0;
  background: none;
  text-decoration: underline;
  cursor: pointer;
}
thead th:first-child,
tbody th {
  width: 26%;
}
thead th:nth-child(2),
td.figure {
  width: 11%;
}
/* where columns have no room for their names */
.named {
  display: none;
}
.iron {
  color: var(--iron);
}
@media (max-width: 700px) {
  .named {
    display: inline;
  }
  .kits.kits {
    min-width: 0;
    max-width: calc(100vw - 36px);
  }
  thead {
    display: none;
  }
  tr,
  tbody th,
  td,
  td.figure {
    display: block;
    width: auto;
    padding: 2px 0;
  }
  tr {
    padding: 6px 0;
  }
  .do {
    display: flex;
    justify-content: start;
  }
}
</style>
