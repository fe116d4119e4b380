<script setup lang="ts">
import { computed } from 'vue'
import type { Run } from '@iron-hush/core/levels'

/** Who makes the hiss of a run: the largest makers and the rest together, as one strip. */
const props = defineProps<{ run: Run; worded: boolean }>()
const shares = computed(() => {
  const large = props.run.shares.slice(0, 4).filter(({ share }) => share >= 0.01)
  const rest = 1 - large.reduce((sum, { share }) => sum + share, 0)
  return [
    ...large.map(({ node, partName, name, share }) => ({
      node,
      words: `${partName}, ${name.toLowerCase()}`,
      share,
    })),
    ...(rest > 0.005 && large.length ? [{ node: 'rest', words: 'the rest', share: rest }] : []),
  ]
})
const percent = (share: number) => `${Math.round(share * 100)} %`
</script>

<template>
  <span
    class="shares"
    :class="{ worded }"
    role="img"
    :aria-label="shares.map(({ words, share }) => `${words} ${percent(share)}`).join(', ')"
  >
    <span
      v-for="(each, index) in shares"
      :key="each.node"
      :class="`share-${index}`"
      :style="{ flexGrow: each.share }"
      :title="`${each.words}: ${percent(each.share)}`"
      >{{ worded && each.share > 0.12 ? `${each.words} ${percent(each.share)}` : '' }}</span
    >
  </span>
</template>

<style scoped>
.shares {
  flex: 1;
  display: flex;
  height: 18px;
  border: 1px solid var(--slate);
  overflow: hidden;
}
.shares span {
  flex-basis: 0;
  min-width: 2px;
  font-size: var(--small);
  font-stretch: 80%;
  line-height: 17px;
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
  border-right: 1px solid var(--slate);
  background: var(--slate-wash);
}
.worded span {
  padding: 0 5px;
}
.shares .share-0 {
  background: var(--slate-solid);
  color: var(--on-solid);
}
</style>
