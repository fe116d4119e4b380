<script setup lang="ts">
import { useIntervalFn } from '@vueuse/core'
import { computed, ref } from 'vue'
import { channelsOf } from '@iron-hush/core/levels'
import { soundReportCsv, takeLengthS } from '@iron-hush/core/report'
import type { MarkKind, Take } from '@iron-hush/core/model'
import { clock } from '@iron-hush/core/units'
import { useShortcuts } from '../../frame/shortcuts'
import { useHistory } from '../../state/history'
import { useOutbox } from '../../sync/outbox'
import { useScene } from '../../state/scene'
import { download } from '../../state/download'
import { useTakeParts } from '../../state/take-parts'
import { useTakes } from '../../state/takes'
import ChannelChoice from './ChannelChoice.vue'
import MarkButtons from './MarkButtons.vue'
import { marks } from './marks'
import PreRoll from './PreRoll.vue'
import TakeLine from './TakeLine.vue'
import TakeList from './TakeList.vue'
import WordDialog from './WordDialog.vue'

const scene = useScene()
const takes = useTakes()
const { changedBetween } = useTakeParts()
const outbox = useOutbox()
const history = useHistory()

const now = ref(Date.now())
useIntervalFn(() => (now.value = Date.now()), 200)
const rolling = computed(() => takes.rolling)
const shown = computed(() => rolling.value ?? takes.list.at(-1))
const nextNumber = computed(() => Math.max(0, ...takes.list.map(({ number }) => number)) + 1)
const runningS = computed(() =>
  rolling.value ? Math.max(0, (now.value - Date.parse(rolling.value.startedAt)) / 1000) : 0,
)
const lengthOf = (take: Take) => takeLengthS(take) ?? runningS.value
const channels = computed(() => (scene.levels ? channelsOf(scene.levels) : []))
const channel = ref('')
const current = computed(() => channels.value.find(({ id }) => id === channel.value) ?? channels.value[0])

function mark(kind: MarkKind, note = '', at = new Date()): void {
  takes.mark(kind, current.value?.id ?? '', note, at)
  navigator.vibrate?.(30)
}
const toggle = () => (rolling.value ? takes.end() : takes.start())

/** The moment that a word is being written about. */
const wording = ref<Date>()
/** A button that is held down by Enter would be pressed again and again. */
const onlyOnce = (event: KeyboardEvent) => event.repeat && event.preventDefault()

function save(): void {
  const text = soundReportCsv(scene.openPatch.name, takes.list, channels.value, { changedBetween })
  const name = scene.openPatch.name.toLowerCase().replace(/[^a-z0-9]+/g, '-')
  download(text, `${name}-sound-report.csv`, 'text/csv')
}

useShortcuts({
  take: () => {
    if (wording.value) return false
    toggle()
  },
  mark: ({ key }) => {
    const kind = marks[Number(key) - 1]?.kind
    if (!kind || !rolling.value || wording.value) return false
    mark(kind)
  },
})
</script>

<template>
  <section class="roll" @keydown.enter.capture="onlyOnce">
    <div class="top">
      <h1>{{ scene.openPatch.name }}</h1>
      <span class="stored" :class="{ waiting: outbox.count }" role="status">
        {{
          outbox.count === 0
            ? `\u2713 ${takes.list.length} stored`
            : outbox.away
              ? `\u25B2 ${outbox.count} kept here, server away`
              : `storing ${outbox.count}`
        }}
      </span>
    </div>
    <div class="now" :class="{ on: rolling }">
      <span class="take" aria-label="Take">{{ rolling?.number ?? nextNumber }}</span>
      <span class="time figure">{{ clock(runningS) }}</span>
      <span class="state">{{ rolling ? 'ROLLING' : 'ready' }}</span>
    </div>

    <ChannelChoice v-model="channel" :channels :current />

    <TakeLine v-if="shown" :take="shown" :length-s="lengthOf(shown)" />
    <PreRoll v-if="!rolling" :key="takes.list.length" :later="takes.list.length > 0" />
    <TakeList v-if="!rolling && takes.list.length > 0" :length-of="lengthOf" />

    <MarkButtons v-if="rolling" @mark="mark($event)" />

    <div class="foot">
      <button type="button" :disabled="!history.canUndo" @click="history.undo()">Undo</button>
      <button v-if="rolling" type="button" @click="wording = new Date()">Word&hellip;</button>
      <button v-else type="button" :disabled="takes.list.length === 0" @click="save">Sound report</button>
      <button type="button" class="go" @click="toggle">
        {{ rolling ? 'End take' : `Roll take ${nextNumber}` }}
      </button>
    </div>

    <WordDialog v-if="wording" @close="wording = undefined" @keep="mark('word', $event, wording)" />
  </section>
</template>

<style scoped>
.roll {
  max-width: 720px;
  margin: 0 auto;
  min-height: 100%;
  padding: 12px 16px 0;
  display: flex;
  flex-direction: column;
  gap: 10px;
}
.top {
  display: flex;
  justify-content: space-between;
  align-items: baseline;
  gap: 12px;
}
h1 {
  font-size: var(--lead);
}
.stored {
  color: var(--verdigris);
  font-stretch: 85%;
  font-size: var(--body);
}
.stored.waiting {
  color: var(--iron);
  font-weight: 650;
}
.now {
  display: flex;
  align-items: baseline;
  gap: 16px;
}
.take {
  font-size: var(--display);
  font-weight: 750;
  font-stretch: 72%;
  line-height: 1;
}
.time {
  font-size: var(--display);
  flex: 1;
}
.state {
  font-weight: 750;
  font-stretch: 85%;
  padding: 5px 12px;
  border: 1px solid var(--quiet);
  border-radius: 2px;
}
.on .state {
  background: var(--iron-solid);
  border-color: var(--iron-solid);
  color: var(--on-solid);
}
.foot {
  position: sticky;
  bottom: 0;
  display: grid;
  grid-template-columns: 1fr auto 1.5fr;
  gap: 10px;
  background: var(--paper);
  border-top: 1px solid var(--rule);
  margin: auto -16px 0;
  padding: 12px 16px;
}
.foot button {
  min-height: 48px;
  border: 1px solid var(--ink);
  border-radius: 2px;
  background: var(--sheet);
  padding: 0 12px;
  font-weight: 650;
  font-stretch: 82%;
  font-size: var(--lead);
  white-space: nowrap;
  cursor: pointer;
}
.foot button:disabled {
  opacity: 0.5;
}
.foot .go {
  background: var(--ink);
  color: var(--sheet);
}
</style>
