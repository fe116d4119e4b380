<script setup lang="ts">
import { computed } from 'vue'
import { contactRolesOf } from '@iron-hush/core/circuit'
import type { Gear, Port } from '@iron-hush/core/model'

/** The contacts of a plug or socket in a row, with what each is for. */
const props = defineProps<{ port: Port; thing: Gear }>()
const roles = computed(() => contactRolesOf(props.port, props.thing))
const words = computed(() => roles.value.map(({ contact, role }) => `${contact}: ${role}`).join(', '))
</script>

<template>
  <span v-if="roles.length" class="contacts" role="img" :aria-label="words" :title="words">
    <span v-for="each in roles" :key="each.contact" class="contact">
      <i :class="[each.kind, { plug: each.plug }]"></i>{{ each.contact }} <small>{{ each.role }}</small>
    </span>
  </span>
</template>

<style scoped>
.contacts {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 12px;
}
.contact {
  display: inline-flex;
  align-items: center;
  gap: 4px;
  font-stretch: 85%;
}
small {
  color: var(--quiet);
  font-size: var(--small);
}
i {
  width: 9px;
  height: 9px;
  border: 1.5px solid var(--ink);
  border-radius: 50%;
}
i.plug {
  border-radius: 0;
}
i.signal {
  background: var(--brass);
}
i.cold {
  border-color: var(--brass);
}
i.ground {
  background: var(--ink);
}
i.nothing {
  border-color: var(--rule);
}
</style>
