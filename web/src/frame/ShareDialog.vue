<script setup lang="ts">
import { useIntervalFn } from '@vueuse/core'
import Button from 'primevue/button'
import Dialog from 'primevue/dialog'
import { computed, ref } from 'vue'
import { offerCode, readSharing, revokeDevice, type Sharing } from '@iron-hush/core/contract'
import { ask } from '../sync/ask'
import { useView } from '../state/view'

/** The phone on the set: where it opens this, how it is let in, and which devices are. */
const view = useView()
const sharing = ref<Sharing>()
const trouble = ref('')
const now = ref(Date.now())

async function tried(asked: Promise<Sharing>): Promise<void> {
  try {
    sharing.value = await asked
    trouble.value = ''
  } catch (error) {
    trouble.value = error instanceof Error ? error.message : String(error)
  }
}
const look = () => tried(ask(readSharing))
const offer = () => tried(ask(offerCode))
const shutOut = (id: string) => tried(ask(revokeDevice, { id }))

const codeEndsIn = computed(() => {
  const code = sharing.value?.code
  return code ? Math.max(0, Math.ceil((Date.parse(code.until) - now.value) / 1000)) : 0
})
const picture = computed(() => `data:image/svg+xml;utf8,${encodeURIComponent(sharing.value?.qrSvg ?? '')}`)
const digits = (code: string) => `${code.slice(0, 3)} ${code.slice(3)}`
const day = (moment: string) => new Date(moment).toLocaleString()

useIntervalFn(() => (now.value = Date.now()), 500)
// a device that pairs is seen here
useIntervalFn(() => void look(), 3000, { immediateCallback: true })
</script>

<template>
  <Dialog
    visible
    modal
    header="Share with a phone"
    :style="{ width: 'min(640px, 96vw)' }"
    dismissable-mask
    @update:visible="view.open = undefined"
  >
    <p v-if="trouble" role="alert">{{ trouble }}</p>
    <template v-else-if="sharing && !sharing.on">
      <p>Only this machine can open Iron Hush now. To use a phone on set, stop it and start it like this:</p>
      <p><code>npm start -- --share</code></p>
      <p class="quiet">
        It can then be reached on the local network too, over TLS, and only by devices that were let in with a
        code from this screen.
      </p>
    </template>
    <div v-else-if="sharing" class="sharing">
      <img :src="picture" :alt="`Picture of the address ${sharing.address}`" width="176" height="176" />
      <ol>
        <li>
          Join the same network with the phone and scan the code, or open <code>{{ sharing.address }}</code>.
        </li>
        <li v-if="sharing.fingerprint">
          The first time, the phone warns you: the page offers this laptop's certificate. Install it as
          trusted if its fingerprint is this one.
          <details>
            <summary>Fingerprint</summary>
            <code class="fingerprint">{{ sharing.fingerprint }}</code>
          </details>
        </li>
        <li>
          <template v-if="sharing.lockedUntil">
            Five codes were wrong. New ones are taken again at
            {{ new Date(sharing.lockedUntil).toLocaleTimeString() }}.
          </template>
          <template v-else-if="sharing.code && codeEndsIn">
            It asks for this code, good for {{ codeEndsIn }} s:
            <output class="code">{{ digits(sharing.code.digits) }}</output>
          </template>
          <template v-else>It asks for a code. <Button label="Show a code" @click="offer" /></template>
        </li>
      </ol>
    </div>
    <template v-if="sharing?.on">
      <h2>Devices</h2>
      <p v-if="sharing.devices.length === 0" class="quiet">None yet.</p>
      <ul v-else class="devices">
        <li v-for="device in sharing.devices" :key="device.id">
          <b>{{ device.name }}</b>
          <span class="quiet">last here {{ day(device.seenAt) }}</span>
          <Button label="Remove" severity="secondary" size="small" @click="shutOut(device.id)" />
        </li>
      </ul>
    </template>
  </Dialog>
</template>

<style scoped>
.sharing {
  display: grid;
  grid-template-columns: 176px 1fr;
  gap: 18px;
}
@media (max-width: 560px) {
  .sharing {
    grid-template-columns: 1fr;
  }
}
ol {
  margin: 0;
  padding-left: 18px;
  display: grid;
  gap: 10px;
  align-content: start;
}
code {
  font-family: var(--figures);
  font-size: var(--small);
  overflow-wrap: anywhere;
}
.code {
  display: block;
  font: 600 30px var(--figures);
  letter-spacing: 0.06em;
}
h2 {
  margin-top: 16px;
}
.devices {
  list-style: none;
  padding: 0;
}
.devices li {
  display: grid;
  grid-template-columns: 1fr auto auto;
  gap: 12px;
  align-items: center;
  padding: 6px 0;
  border-top: 1px solid var(--rule);
}
p + p {
  margin-top: 10px;
}
</style>
