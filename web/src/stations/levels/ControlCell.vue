<script setup lang="ts">
import { signed } from '@iron-hush/core/units'
import { positionName, type KeyedControl } from '@iron-hush/core/model'
import ControlFace from '../../controls/ControlFace.vue'
import type { useBalancing } from './balancing'
import { useLockControl, useTurnControl } from './turn-control'

/** The controls of one column, as they stand and as Balance would have them. */
defineProps<{
  controls: readonly KeyedControl[]
  partName: string
  /** Keys of controls that need their name beside them: the column is not called after them. */
  captioned: readonly string[]
  balancing: ReturnType<typeof useBalancing>
}>()
const emit = defineEmits<{ take: [key: string] }>()

const turn = useTurnControl()
const lock = useLockControl()
</script>

<template>
  <div class="cell">
    <div
      v-for="each in controls"
      :key="each.key"
      class="set"
      @focusin="emit('take', each.key)"
      :class="{ compact: captioned.includes(each.key) }"
    >
      <span v-if="captioned.includes(each.key)" class="caption">{{ each.control.name }}</span>
      <ControlFace
        :control="each.control"
        :position="each.position"
        :ghost="balancing.ghostOf(each.key)"
        :locked="each.locked"
        :label="`${partName}, ${each.control.name}`"
        @turn="turn(each, $event)"
      />
      <button
        v-if="balancing.ghosts.value.has(each.key)"
        type="button"
        class="ghost-words"
        :title="`Accept ${each.control.name} alone`"
        @click="balancing.accept([balancing.ghosts.value.get(each.key)!])"
      >
        {{ positionName(each.control, balancing.ghostOf(each.key)!) }}
        <template v-if="balancing.ghosts.value.get(each.key)!.aloneDb >= 0.05"
          >gives {{ signed(balancing.ghosts.value.get(each.key)!.aloneDb) }} dB</template
        >
        <template v-else>only with the others</template>
      </button>
      <button
        v-else
        type="button"
        class="lock"
        :class="{ locked: each.locked }"
        :aria-pressed="each.locked"
        :aria-label="`Lock ${each.control.name}`"
        @click="lock(each)"
      >
        {{ each.locked ? 'locked' : 'lock' }}
      </button>
    </div>
  </div>
</template>

<style scoped>
.cell {
  display: flex;
  flex-direction: column;
  align-items: center;
  gap: 2px;
  padding: 2px;
  min-width: 0;
}
/* a whole box: its controls side by side, as on its front */
.whole {
  flex-flow: row wrap;
  justify-content: center;
  align-items: flex-start;
  align-content: flex-start;
  gap: 2px 10px;
}
.whole .set {
  width: auto;
}
.compact :deep(.switch) {
  padding: 1px 0;
}
.caption {
  white-space: nowrap;
  color: var(--quiet);
  font-size: var(--small);
  font-stretch: 80%;
}
.set {
  display: grid;
  justify-items: center;
  width: 100%;
}
.lock,
.ghost-words {
  border: 0;
  background: none;
  cursor: pointer;
  font-size: var(--small);
  font-stretch: 80%;
  color: var(--quiet);
  padding: 1px 4px;
  min-height: 24px;
  text-align: center;
  line-height: 1.15;
}
.locked {
  color: var(--ink);
  font-weight: 650;
  text-decoration: underline;
}
.ghost-words {
  color: var(--verdigris);
  font-weight: 600;
}
</style>
