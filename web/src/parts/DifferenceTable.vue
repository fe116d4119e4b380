<script setup lang="ts">
import type { Difference } from '@iron-hush/core/report'

/** Differences between two patches, one line each. */
defineProps<{ differences: readonly Difference[]; one: string; other: string }>()
</script>

<template>
  <table aria-label="What differs">
    <thead>
      <tr>
        <th>what</th>
        <th>{{ one }}</th>
        <th>{{ other }}</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="each in differences" :key="each.what">
        <th scope="row">{{ each.what }}</th>
        <td class="figure">{{ each.one }}</td>
        <td class="figure">{{ each.other }}</td>
      </tr>
    </tbody>
  </table>
</template>

<style scoped>
table {
  width: 100%;
  border-collapse: collapse;
  font-size: var(--small);
}
th,
td {
  text-align: left;
  font-weight: 500;
  padding: 2px 12px 2px 0;
  border-top: 1px solid var(--rule);
}
</style>
