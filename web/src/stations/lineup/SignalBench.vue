<script setup lang="ts">
import Select from 'primevue/select'
import { ref } from 'vue'
import { testSignalKinds } from '@iron-hush/core/signals'
import { signalName } from '@iron-hush/core/words'
import NumberField from '../../parts/NumberField.vue'
import { useView } from '../../state/view'
import PlaySignal from './PlaySignal.vue'

/** Tones and noise by themselves: played from here, or written as files for a recorder to play. */
const view = useView()
const kind = ref<(typeof testSignalKinds)[number]>('tone')
const levelDbfs = ref(-12)
const kinds = testSignalKinds.map((each) => ({ kind: each, name: signalName({ kind: each }) }))
</script>

<template>
  <details class="signals">
    <summary>Tones and noise</summary>
    <p class="row">
      <Select
        v-model="kind"
        :options="kinds"
        option-label="name"
        option-value="kind"
        size="small"
        aria-label="Signal"
      />
      <NumberField
        v-model="levelDbfs"
        :min="-80"
        :max="0"
        unit="dBFS"
        boxed
        label="Level of the signal, dBFS"
      />
    </p>
    <PlaySignal :key="kind" :signal="{ kind, levelDbfs }" />
    <p class="row quiet">
      Output of this device at full scale
      <NumberField
        :model-value="view.outputDbu"
        :min="-60"
        :max="24"
        unit="dBu"
        empty
        boxed
        placeholder="? dBu"
        label="Output of this device at full scale, dBu"
        @update:model-value="view.outputDbu = $event"
        @emptied="view.outputDbu = null"
      />
    </p>
  </details>
</template>

<style scoped>
.signals {
  border-top: 1px solid var(--rule);
  padding-top: 10px;
}
.row {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  align-items: center;
  margin: 8px 0;
}
</style>
