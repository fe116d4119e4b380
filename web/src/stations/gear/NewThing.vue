<script setup lang="ts">
import Button from 'primevue/button'
import { computed, onMounted, ref, shallowRef, useTemplateRef, watch } from 'vue'
import { z } from 'zod'
import {
  connectorNames,
  type FormSchema,
  gearId,
  sentenceOf,
  stageNames,
  variantsOf,
} from '@iron-hush/core/model'
import { firstAnswers, OwnBox, ownBox, type OwnBoxKind } from '@iron-hush/core/plan'
import SegmentedChoice from '../../parts/SegmentedChoice.vue'
import { useGear } from '../../state/gear'
import { newId } from '../../sync/new-id'
import SchemaFields from './SchemaFields.vue'

/** A thing made from its kind and a few answers; what was not asked is typical of the kind. */
const emit = defineEmits<{ close: []; made: [id: string] }>()
const gear = useGear()
const kinds = (Object.keys(firstAnswers) as OwnBoxKind[]).map((id) => ({ id, name: id }))
const kind = ref<OwnBoxKind>('camera')
/** What kind it is has been chosen above. */
const withoutKind = <Item>(fields: Record<string, Item>): Record<string, Item> =>
  Object.fromEntries(Object.entries(fields).filter(([key]) => key !== 'kind'))
const answers = shallowRef<Record<string, unknown>>(withoutKind(firstAnswers.camera))
watch(kind, (now) => (answers.value = withoutKind(firstAnswers[now])))

const forms = variantsOf(z.toJSONSchema(OwnBox, { io: 'input', unrepresentable: 'any' }) as FormSchema) ?? []
const form = computed(
  () =>
    forms.find(({ properties }) => {
      const own = properties?.['kind']
      return own?.const === kind.value || own?.enum?.includes(kind.value)
    }) ?? {},
)
const asked = computed<FormSchema>(() => ({
  ...form.value,
  properties: withoutKind(form.value.properties ?? {}),
}))
const unique = newId()
const read = computed(() => {
  const parsed = OwnBox.safeParse({ ...answers.value, kind: kind.value })
  if (!parsed.success) return { problem: sentenceOf(parsed.error, 'This thing') }
  const id = gearId(`my ${parsed.data.name}`, unique)
  return { thing: ownBox(parsed.data, id) }
})
const summary = computed(() => {
  const { thing } = read.value
  if (!thing) return []
  const { passive, ports, strips, controls } = thing
  if (passive)
    return [`${connectorNames[passive.from]} to ${connectorNames[passive.to]}, ${passive.lengthM ?? 0} m`]
  return [
    `Sockets and plugs: ${ports.map(({ name, connector }) => (name === connectorNames[connector] ? name : `${name} (${connectorNames[connector]})`)).join(', ')}.`,
    ...strips.map(({ name, id, stages }) => {
      const row = stages.map((stage) => stage.name ?? stageNames[stage.kind])
      const title = name ?? id.replaceAll('-', ' ')
      return row.length === 1 && row[0]?.toLowerCase() === title.toLowerCase()
        ? `${row[0]}.`
        : `${title}: ${row.join(' \u2192 ')}.`
    }),
    controls.length ? `Controls: ${controls.map(({ name }) => name).join(', ')}.` : 'No controls.',
  ]
})
// the shelf lies between the button that opened this and its first question
const sheet = useTemplateRef('sheet')
onMounted(() => sheet.value?.querySelector<HTMLElement>('[role=radio][tabindex="0"]')?.focus())

function make(): void {
  const { thing } = read.value
  if (!thing) return
  gear.add(thing, `making ${thing.name}`)
  emit('made', thing.id)
}
</script>

<template>
  <article ref="sheet" aria-label="A thing of your own">
    <h2>A thing of your own</h2>
    <p class="quiet">
      Say what you know. Every other figure starts at a value typical of its kind, and plans say which are
      assumed. You can change everything later.
    </p>
    <SegmentedChoice v-model="kind" class="kinds" label="What it is" :options="kinds" />
    <SchemaFields
      :schema="asked"
      :value="answers"
      label="the thing"
      adds="Add what you know&hellip;"
      @change="answers = $event"
    />
    <p v-if="read.problem" role="alert" class="iron">{{ read.problem }}</p>
    <template v-else>
      <p v-for="line in summary" :key="line" class="made">{{ line }}</p>
    </template>
    <p class="foot">
      <Button label="Add to the shelf" :disabled="!read.thing" @click="make()" />
      <Button label="Cancel" severity="secondary" @click="emit('close')" />
    </p>
  </article>
</template>

<style scoped>
article {
  overflow: auto;
  padding: 14px 22px 24px;
  display: grid;
  gap: 14px;
  align-content: start;
}
h2 {
  margin: 0;
  font-size: var(--lead);
}
.kinds {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
}
.kinds :deep(button) {
  border: 1px solid var(--rule);
  border-radius: 2px;
  background: var(--sheet);
  padding: 6px 12px;
  min-height: 32px;
  cursor: pointer;
}
.kinds :deep([aria-checked='true']) {
  border-color: var(--ink);
  background: var(--ink);
  color: var(--sheet);
}
.made {
  font-size: var(--small);
  color: var(--quiet);
}
.foot {
  display: flex;
  gap: 10px;
}
.iron {
  color: var(--iron);
}
</style>
