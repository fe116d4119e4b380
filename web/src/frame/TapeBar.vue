<script setup lang="ts">
import { computed } from 'vue'
import { useRoute } from 'vue-router'
import TapeActions from './TapeActions.vue'
import { useStationStates } from './station-states'
import { stations } from './stations'
import { useScene } from '../state/scene'

const route = useRoute()
const scene = useScene()

const params = computed(() => ({ scene: scene.document?.id }))
const inScene = computed(() => route.params.scene !== undefined)
const shoot = computed(() => scene.shoots.find(({ id }) => id === scene.document?.shoot))

const states = useStationStates()
</script>

<template>
  <header>
    <RouterLink class="mark" :to="{ name: 'start' }">
      <svg width="26" height="26" viewBox="0 0 26 26" aria-hidden="true">
        <path d="M1 3h24v4.5l-6 2H7l-6-2z" fill="var(--iron)" />
        <path d="M1 23h24v-3l-6-4H7l-6 4z" fill="var(--slate)" />
        <path d="M1 12.2h24v1.6H1z" fill="var(--brass)" />
      </svg>
      <b>IRON HUSH</b>
      <span v-if="inScene">{{ shoot?.name }}</span>
    </RouterLink>
    <nav v-if="inScene" aria-label="Stations">
      <RouterLink
        v-for="station in stations"
        :key="station.name"
        :to="{ name: station.name, params }"
        :class="{ here: route.name === station.name }"
      >
        <span class="name">{{ station.title }}</span>
        <kbd aria-hidden="true">{{ station.key }}</kbd>
        <span
          v-if="states[station.name]"
          class="state"
          :class="{ needs: states[station.name]!.needs, settled: states[station.name]!.settled }"
        >
          <i aria-hidden="true">{{ states[station.name]!.mark }}</i> {{ states[station.name]!.words }}
        </span>
      </RouterLink>
    </nav>
    <TapeActions class="right" />
  </header>
</template>

<style scoped>
header {
  display: grid;
  grid-template-columns: auto minmax(0, 1fr) auto;
  border-bottom: 1px solid var(--ink);
  min-height: 54px;
}
a {
  color: inherit;
  text-decoration: none;
}
.mark {
  display: flex;
  align-items: center;
  gap: 10px;
  padding: 0 18px;
}
.mark b {
  font-stretch: 75%;
  font-weight: 800;
  letter-spacing: 0.06em;
  font-size: var(--lead);
  white-space: nowrap;
}
.mark span {
  color: var(--quiet);
  font-stretch: 85%;
  font-size: var(--small);
  border-left: 1px solid var(--rule);
  padding-left: 10px;
  line-height: 1.15;
  max-width: 96px;
}
nav {
  display: flex;
  /* graduations of a measuring tape */
  background: repeating-linear-gradient(90deg, var(--quiet) 0 1px, transparent 1px 11px) left bottom / 100%
    5px no-repeat;
}
nav a {
  position: relative;
  flex: 0 1 112px;
  padding: 8px 10px 9px 12px;
  display: grid;
  grid-template-columns: 1fr auto;
  align-content: start;
}
nav a::before {
  content: '';
  position: absolute;
  left: 0;
  bottom: 0;
  width: 1px;
  height: 20px;
  background: var(--ink);
}
nav .name {
  font-size: var(--lead);
  font-stretch: 85%;
  font-weight: 560;
  line-height: 1.25;
}
nav kbd {
  font: var(--small) var(--figures);
  color: var(--quiet);
}
nav .state {
  grid-column: 1 / -1;
  font-size: var(--small);
  font-stretch: 80%;
  color: var(--quiet);
  white-space: nowrap;
}
nav .state i {
  font-style: normal;
  font-size: var(--small);
}
nav .needs {
  color: var(--iron);
  font-weight: 650;
}
nav .settled {
  color: var(--verdigris);
}
nav .here {
  background: var(--ink);
  color: var(--sheet);
}
nav .here .name {
  font-weight: 700;
}
nav .here .state,
nav .here kbd {
  color: inherit;
}
.right {
  grid-column: -2;
}
@media (max-width: 1100px) {
  .mark span {
    display: none;
  }
}
@media (max-width: 1000px) {
  nav kbd {
    display: none;
  }
  nav a {
    padding: 8px 4px 9px 8px;
  }
  nav .state {
    font-stretch: 66%;
  }
}
@media (max-width: 700px) {
  header {
    grid-template-columns: auto 1fr;
    min-height: 0;
  }
  .mark {
    padding: 8px 14px;
  }
  nav {
    grid-column: 1 / -1;
    grid-row: 2;
    border-top: 1px solid var(--rule);
  }
  nav a {
    flex: 1;
    padding: 7px 4px 9px 8px;
  }
  nav kbd,
  nav .state {
    display: none;
  }
}
</style>
