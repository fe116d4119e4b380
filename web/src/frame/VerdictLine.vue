<script setup lang="ts">
import { computed, useTemplateRef } from 'vue'
import { useRoute } from 'vue-router'
import { askedOfRuns } from '@iron-hush/core/levels'
import { trackKey } from '@iron-hush/core/model'
import { circuitWords, foundWell, levelWords, whereWords, assumptionWords } from '@iron-hush/core/words'
import { useNotices } from '../state/notices'
import { useScene } from '../state/scene'
import TermedText from '../parts/TermedText.vue'
import { useView } from '../state/view'

const route = useRoute()
const scene = useScene()
const view = useView()
const index = computed(() => scene.runs.findIndex(({ id }) => id === scene.run?.id))
/** Wiring findings of the selected run, which come before any level. */
const wired = computed(() => {
  const links = new Set(scene.run?.points.map(({ node }) => node.split('.')[0]))
  return scene.wiringFaults
    .filter(({ subject, severity }) => links.has(subject.link) && severity !== 'note')
    .map((finding) => ({ ...finding, where: whereWords(finding.subject), ...circuitWords(finding) }))
})
const worst = computed(() =>
  wired.value.find(({ severity }) => severity === 'dead' || severity === 'harmful'),
)
/** What was examined and found good, if there are no findings. */
const well = computed(() => {
  const plan = scene.patch?.plan
  if (!scene.run || !plan) return []
  const { box, track } = scene.run.end
  return foundWell(scene.run, plan, askedOfRuns(scene.runs, plan).get(trackKey({ box, track })))
})
/** Findings of this run, and of sources without one. */
const about = computed(() =>
  scene.findings
    .filter(({ subject: { run } }) => run === scene.run?.id || run === undefined)
    .map((finding) => ({ ...finding, ...levelWords(finding) })),
)
const unrecorded = computed(() => about.value.find(({ code }) => code === 'unrecorded'))
/** Whose run it is, where another source takes the same way. */
const voice = computed(() => {
  const { run, runs } = scene
  const sameWay = runs.filter(
    ({ entry, end }) => entry.part === run?.entry.part && trackKey(end) === trackKey(run.end),
  )
  return sameWay.some(({ source }) => source.id !== run?.source.id) ? run?.source.name : undefined
})
const say = useTemplateRef('say')
/** The verdict as text, with the run that it is about. */
async function copy(): Promise<void> {
  const { run } = scene
  const which = run ? `${run.entry.name} \u2192 ${run.end.boxName}, ${run.end.name}: ` : ''
  const text = `${scene.openPatch.name}. ${which}${say.value?.textContent?.trim() ?? ''}`
  try {
    await navigator.clipboard.writeText(text)
    useNotices().say('Verdict copied.')
  } catch {
    useNotices().say('The browser did not allow copying; select the text and copy it yourself.')
  }
}
</script>

<template>
  <footer v-if="route.name !== 'roll' && route.params.scene !== undefined">
    <section v-if="view.open === 'why'" class="why-panel" aria-label="Why">
      <button type="button" class="close" @click="view.toggle('why')">Close</button>
      <template v-if="about.length + wired.length === 0">
        <p v-for="sentence in well" :key="sentence">{{ sentence }}</p>
      </template>
      <dl v-for="(finding, at) in wired" :key="at">
        <dt>
          <span class="severity" :class="finding.severity">{{ finding.severity }}</span>{{ ' '
          }}<TermedText :text="finding.what" />
        </dt>
        <dd>{{ finding.where }}: <TermedText :text="`${finding.why} ${finding.remedy}`" /></dd>
      </dl>
      <dl v-for="(finding, at) in about" :key="at">
        <dt>
          <span class="severity" :class="finding.severity">{{ finding.severity }}</span>{{ ' '
          }}<TermedText :text="finding.what" />
        </dt>
        <dd><TermedText :text="`${finding.why} ${finding.remedy}`" /></dd>
      </dl>
      <p v-for="(assumption, at) in scene.levels?.assumptions" :key="at" class="quiet">
        Assumed: {{ assumptionWords(assumption) }}.
      </p>
    </section>
    <div class="run">
      <button type="button" aria-label="Previous run" @click="scene.stepRun(-1)">&#9664;</button>
      <span
        v-if="scene.run"
        class="which three-lines"
        :title="`${scene.run.entry.name} \u2192 ${scene.run.end.boxName}, ${scene.run.end.name}`"
      >
        <span class="quiet">{{ index + 1 }} of {{ scene.runs.length }}</span>
        {{ voice ? `${voice} by ` : '' }}{{ scene.run.entry.name }} &rarr; {{ scene.run.end.boxName }},
        {{ scene.run.end.name }}
      </span>
      <button type="button" aria-label="Next run" @click="scene.stepRun(1)">&#9654;</button>
    </div>
    <p ref="say" class="say" aria-live="polite">
      <template v-if="scene.problems.length">
        <span class="tone-ceiling">The chain cannot be computed.</span> {{ scene.problems[0] }}
      </template>
      <template v-else-if="worst">
        <span class="tone-ceiling">{{ worst.what }}</span> {{ worst.why }} {{ worst.remedy }}
      </template>
      <template v-else-if="scene.run || unrecorded">
        <template v-if="unrecorded"
          ><span class="tone-ceiling">{{ unrecorded.what }}</span> {{ unrecorded.why }} {{ unrecorded.remedy
          }}{{ ' ' }}</template
        >
        <span v-for="(words, at) in scene.verdict" :key="at" :class="words.tone && `tone-${words.tone}`">{{
          words.text
        }}</span>
      </template>
      <template v-else-if="scene.patch"
        >Nothing is recorded yet: connect a microphone to a recorder or a camera on Patch.</template
      >
    </p>
    <button type="button" class="copy" title="Copy the verdict" :disabled="!scene.patch" @click="copy">
      Copy
    </button>
    <button type="button" class="why" :aria-expanded="view.open === 'why'" @click="view.toggle('why')">
      Why?
    </button>
  </footer>
</template>

<style scoped>
footer {
  position: relative;
  border-top: 1px solid var(--ink);
  background: var(--sheet);
  display: grid;
  grid-template-columns: 300px 1fr auto 64px;
  align-items: center;
  min-height: 50px;
}
.run {
  border-right: 1px solid var(--rule);
  height: 100%;
  padding: 5px 12px;
  display: grid;
  grid-template-columns: auto 1fr auto;
  align-items: center;
  gap: 8px;
  font-stretch: 85%;
  font-weight: 600;
  font-size: var(--body);
  line-height: 1.2;
}
.run button,
.why,
.copy,
.close {
  border: 0;
  background: none;
  padding: 8px;
  cursor: pointer;
  color: var(--ink);
}
.say {
  padding: 7px 16px;
  font-size: var(--body);
  line-height: 1.35;
}
.why,
.copy {
  color: var(--quiet);
  font-stretch: 85%;
  text-decoration: underline;
  text-underline-offset: 3px;
}
.why-panel {
  position: absolute;
  bottom: 100%;
  left: 0;
  right: 0;
  max-height: 46vh;
  overflow: auto;
  background: var(--sheet);
  border-top: 1px solid var(--ink);
  padding: 14px 18px 14px 316px;
  display: grid;
  gap: 8px;
  z-index: 5;
}
.close {
  position: absolute;
  right: 16px;
  top: 6px;
  text-decoration: underline;
}
dl {
  margin: 0;
  max-width: 90ch;
}
dt {
  font-weight: 600;
}
dd {
  margin: 0;
  color: var(--quiet);
}
.severity {
  font-size: var(--small);
  font-stretch: 80%;
  border: 1px solid currentcolor;
  padding: 0 5px;
  border-radius: 2px;
  margin-right: 4px;
}
.harmful,
.dead {
  color: var(--iron);
}
.degraded {
  color: var(--brass-ink);
}
.note {
  color: var(--slate);
}
@media (max-width: 700px) {
  footer {
    grid-template-columns: 1fr auto auto;
  }
  .run {
    grid-column: 1 / -1;
    border-right: 0;
    border-bottom: 1px solid var(--rule);
    padding: 4px 8px;
  }
  .say {
    max-height: 30vh;
    overflow: auto;
    font-size: var(--body);
  }
  .why-panel {
    padding: 14px 18px;
  }
  .close {
    position: static;
    justify-self: end;
  }
}
</style>
