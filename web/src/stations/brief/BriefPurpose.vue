<script setup lang="ts">
import { computed } from 'vue'
import { type Brief, Purpose, usualForPurposeDb } from '@iron-hush/core/model'
import { worstRatioName } from '@iron-hush/core/words'
import InlineChoice from '../../parts/InlineChoice.vue'
import TermButton from '../../parts/TermButton.vue'
import NumberField from '../../parts/NumberField.vue'
import { useScene } from '../../state/scene'

/** What the result is for, and the speech-to-noise that it asks for. */
const scene = useScene()
const brief = computed(() => scene.openPatch.brief)
const change = (to: Partial<Brief>, name: string) => scene.change([{ kind: 'change brief', to }], name)
/** A purpose brings the figure that it usually asks for; it can be changed. */
function decide(value: string): void {
  const purpose = Purpose.safeParse(value).data
  if (purpose)
    change({ purpose, wantedSpeechToNoiseDb: usualForPurposeDb[purpose] }, 'what the result is for')
}
</script>

<template>
  <p>
    The result is for
    <InlineChoice
      :model-value="brief.purpose ?? 'not said yet'"
      :options="[
        ...(brief.purpose ? [] : [{ value: 'not said yet', name: 'not said yet' }]),
        ...Purpose.options.map((value) => ({ value, name: value })),
      ]"
      label="What the result is for"
      @update:model-value="decide($event)"
    />; it needs a <TermButton term="speech-to-noise">{{ worstRatioName(brief.sources) }}</TermButton> of at
    least
    <NumberField
      :model-value="brief.wantedSpeechToNoiseDb ?? 0"
      :min="0"
      :max="90"
      unit="dB"
      label="Speech-to-noise asked for"
      @update:model-value="change({ wantedSpeechToNoiseDb: $event }, 'what is asked for')"
    />.
  </p>
</template>
