<script setup lang="ts">
import { computed, ref } from 'vue'
import { patternName } from '@iron-hush/core/acoustics'
import { connectorNames, figuresOfGear, type Gear, type GearFigure, stageNames } from '@iron-hush/core/model'
import Button from 'primevue/button'
import FigurePanel from './FigurePanel.vue'
import FigureButton from './FigureButton.vue'
import EverythingPanel from './EverythingPanel.vue'
import GearHead from './GearHead.vue'
import InsidePiece from './InsidePiece.vue'
import LearntFigures from './LearntFigures.vue'
import { isUnder, positionsWords } from './figures'
import PortContacts from './PortContacts.vue'

/** The sheet of a thing: its strip of stages, its contacts, and every figure, each edited in place. */
const props = defineProps<{ thing: Gear }>()
const emit = defineEmits<{ choose: [id: string] }>()
const figures = computed(() => figuresOfGear(props.thing))
const under = (...path: GearFigure['path']) => figures.value.filter((figure) => isUnder(figure, path))
const everything = ref(false)
const selected = ref<string>()
const key = ({ path }: GearFigure) => path.join('.')
const figureInHand = computed(() => figures.value.find((figure) => key(figure) === selected.value))

/** Where inside a figure is, without saying "Inside" again. */
const insideName = (part: string) => part.replace(/^Inside(, )?/, '')
</script>

<template>
  <article>
    <GearHead :thing @choose="emit('choose', $event)" />
    <p v-if="!everything">
      <Button label="Change everything" severity="secondary" size="small" @click="everything = true" />
    </p>
    <EverythingPanel v-else :thing @close="everything = false" />
    <FigurePanel
      v-if="figureInHand"
      class="hand"
      :thing="thing"
      :figure="figureInHand"
      @close="selected = undefined"
    />

    <template v-if="thing.learnt?.length">
      <h3>Learnt on the real box</h3>
      <LearntFigures :thing />
    </template>
    <template v-if="thing.strips.length">
      <h3>Stages <span class="quiet hint">touch a figure to change it</span></h3>
      <div v-for="(strip, at) in thing.strips" :key="strip.id" class="strip">
        <p class="strip-name">{{ strip.name ?? strip.id.replaceAll('-', ' ') }}</p>
        <ol>
          <li v-for="(stage, index) in strip.stages" :key="index">
            <b>{{ stage.name ?? stageNames[stage.kind] }}</b>
            <span class="kind">{{
              stage.kind === 'transducer'
                ? `capsule, ${patternName(stage.pattern)}`
                : stageNames[stage.kind].toLowerCase()
            }}</span>
            <FigureButton
              v-for="figure in under('strips', at, 'stages', index)"
              :key="key(figure)"
              :figure="figure"
              :selected="key(figure) === selected"
              @take="selected = key(figure)"
            />
          </li>
        </ol>
      </div>
    </template>
    <template v-if="thing.passive">
      <h3>Inside</h3>
      <InsidePiece :thing />
      <div class="inside">
        <FigureButton
          v-for="figure in under('passive')"
          :key="key(figure)"
          :figure="figure"
          :before="insideName(figure.part)"
          :selected="key(figure) === selected"
          @take="selected = key(figure)"
        />
      </div>
    </template>
    <template v-if="thing.ports.length">
      <h3>Sockets and plugs</h3>
      <table class="stacked">
        <tbody>
          <tr v-for="(port, index) in thing.ports" :key="port.id">
            <th scope="row">{{ port.name }}</th>
            <td>
              {{ port.direction }}, {{ connectorNames[port.connector]
              }}{{ port.channels === 2 ? ', two channels' : '' }}{{ port.balanced ? ', balanced' : ''
              }}{{ port.digital ? ', digital' : '' }}
            </td>
            <td><PortContacts :port="port" :thing="thing" /></td>
            <td>
              <FigureButton
                v-for="figure in under('ports', index)"
                :key="key(figure)"
                :figure="figure"
                :before="figure.part.slice(port.name.length).replace(/^, /, '')"
                :selected="key(figure) === selected"
                @take="selected = key(figure)"
              />
            </td>
          </tr>
        </tbody>
      </table>
    </template>
    <template v-if="thing.radio">
      <h3>On the air</h3>
      <div class="inside">
        <FigureButton
          v-for="figure in under('radio')"
          :key="key(figure)"
          :figure="figure"
          :selected="key(figure) === selected"
          @take="selected = key(figure)"
        />
      </div>
    </template>
    <template v-if="thing.controls.length">
      <h3>Controls</h3>
      <table class="stacked">
        <tbody>
          <tr v-for="control in thing.controls" :key="control.id">
            <th scope="row">{{ control.name }}</th>
            <td :class="{ figure: control.kind !== 'switch' }">{{ positionsWords(control) }}</td>
          </tr>
        </tbody>
      </table>
    </template>
  </article>
</template>

<style scoped>
.hand {
  position: sticky;
  top: -14px;
  z-index: 2;
}
article {
  overflow: auto;
  padding: 14px 22px 24px;
  display: grid;
  gap: 10px;
  align-content: start;
}
h3 {
  margin: 8px 0 0;
  font-size: var(--body);
  font-stretch: 85%;
}
.hint {
  font-size: var(--small);
  font-weight: 400;
}
.strip-name {
  font-size: var(--small);
  color: var(--quiet);
  font-stretch: 85%;
}
ol {
  list-style: none;
  display: flex;
  flex-wrap: wrap;
  gap: 18px;
  margin: 2px 0 6px;
  padding: 0;
}
li {
  position: relative;
  background: var(--sheet);
  border: 1px solid var(--ink);
  border-radius: 2px;
  padding: 6px 10px;
  display: grid;
  align-content: start;
  font-size: var(--small);
  min-width: 110px;
}
li:not(:last-child)::after {
  content: '';
  position: absolute;
  left: 100%;
  top: 50%;
  width: 18px;
  border-top: 2px solid var(--brass);
}
.kind {
  color: var(--quiet);
  font-size: var(--small);
}
table {
  border-collapse: collapse;
  width: 100%;
  font-size: var(--small);
}
tr {
  border-top: 1px solid var(--rule);
}
th {
  text-align: left;
  font-weight: 600;
  font-stretch: 88%;
  padding: 3px 10px 3px 0;
}
.inside {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 16px;
}
td .fact {
  margin-right: 10px;
}
@media (max-width: 700px) {
  article {
    padding: 8px 16px 24px;
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
