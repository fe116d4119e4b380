<script setup lang="ts">
import { termedText } from '@iron-hush/core/words'
import { computed } from 'vue'
import TermButton from './TermButton.vue'

/** A sentence in which every term can be pressed and is explained. */
const props = defineProps<{ text: string }>()
const stretches = computed(() => termedText(props.text))
</script>

<template>
  <template v-for="(each, at) in stretches" :key="at"
    ><TermButton v-if="each.term" :term="each.term">{{ each.text }}</TermButton
    ><template v-else>{{ each.text }}</template></template
  >
</template>
