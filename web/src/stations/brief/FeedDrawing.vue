<script setup lang="ts">
import { computed } from 'vue'
import { feedRooms } from '@iron-hush/core/levels'
import type { Source } from '@iron-hush/core/model'
import { feedRoomWords, feedWords, isolated } from '@iron-hush/core/words'
import { shownDb, signed } from '@iron-hush/core/units'
import { useGear } from '../../state/gear'
import { useScene } from '../../state/scene'

/** What each recording can take of a line feed: between noise and ceiling the feed as it is said here. */
const props = defineProps<{ feed: Extract<Source, { kind: 'line' }> }>()
const scene = useScene()
const gear = useGear()
const rooms = computed(() => feedRooms(scene.openPatch, gear.shelf, props.feed))
const peakDbu = computed(() => scene.runs.find(({ source }) => source.id === props.feed.id)?.atSource.peak)

const lowestDbu = -90
const highestDbu = 30
const ticksDbu = [-80, -60, -40, -20, 0, 20]
const share = (dbu: number): number =>
  100 * Math.min(1, Math.max(0, (dbu - lowestDbu) / (highestDbu - lowestDbu)))
const between = (from: number, to: number) => ({
  left: `${share(from)}%`,
  width: `${Math.max(0, share(to) - share(from))}%`,
})
const levels = computed(() => props.feed.levelsDbu)
</script>

<template>
  <section class="feed" aria-labelledby="feed-room">
    <h2 id="feed-room">How loud it may be sent</h2>
    <p>{{ feedWords(rooms) }}</p>
    <ul v-if="rooms.length">
      <li v-for="room in rooms" :key="room.box + room.tracks.join()">
        <span class="name"><b>{{ isolated(room.boxName) }}</b> {{ room.tracks.join(', ') }}</span>
        <span class="figure" :class="{ hot: room.ceiling && room.ceiling.spareDb < -shownDb }">{{
          feedRoomWords(room)
        }}</span>
        <span class="scale" aria-hidden="true">
          <i v-for="dbu in ticksDbu" :key="dbu" class="tick" :style="{ left: `${share(dbu)}%` }"></i>
          <i class="floor" :style="between(lowestDbu, room.noiseDbu)"></i>
          <i v-if="room.ceiling" class="ceiling" :style="between(room.ceiling.peakDbu, highestDbu)"></i>
          <i v-if="peakDbu !== undefined" class="peaks" :style="between(levels.loudest, peakDbu)"></i>
          <i class="band" :style="between(levels.quietest, levels.loudest)"></i>
          <i class="typical" :style="{ left: `${share(levels.typical)}%` }"></i>
        </span>
        <span class="why">
          noise {{ Number.isFinite(room.noiseDbu) ? `${signed(room.noiseDbu)} dBu` : 'none'
          }}<template v-if="room.ceiling"
            >; overloaded first: {{ room.ceiling.place
            }}<template v-if="Number.isFinite(room.ceiling.peakDbu)"
              >, at {{ signed(room.ceiling.peakDbu) }} dBu</template
            ></template
          >
        </span>
      </li>
      <li class="axis" aria-hidden="true">
        <span class="scale plain">
          <span v-for="dbu in ticksDbu" :key="dbu" :style="{ left: `${share(dbu)}%` }">{{
            signed(dbu, 0)
          }}</span>
        </span>
        <span class="why legend">
          <span><i class="floor"></i>noise</span> <span><i class="band"></i>quietest to loudest</span>
          <span><i class="peaks"></i>its peaks</span> <span><i class="ceiling"></i>too hot</span>
          in dBu, as it is sent
        </span>
      </li>
    </ul>
  </section>
</template>

<style scoped>
.feed {
  align-self: start;
  border: 1px solid var(--rule);
  background: var(--sheet);
  padding: 12px 16px 14px;
}
h2 {
  margin-top: 0;
}
p {
  margin: 0 0 8px;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
li {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 4px 12px;
  padding: 10px 0;
  border-top: 1px solid var(--rule);
}
.figure {
  text-align: right;
}
.hot {
  color: var(--iron);
}
.scale,
.why {
  grid-column: 1 / -1;
}
.why {
  font-size: var(--small);
  color: var(--quiet);
}
.scale {
  position: relative;
  height: 26px;
  border: 1px solid var(--rule);
  background: var(--paper);
}
.scale i {
  position: absolute;
  inset-block: 0;
}
.scale .tick {
  width: 1px;
  background: var(--rule);
}
.floor {
  background: var(--slate-wash);
  border-right: 2px solid var(--slate);
}
.ceiling {
  background: repeating-linear-gradient(135deg, var(--iron) 0 2px, var(--iron-wash) 2px 6px);
  border-left: 2px solid var(--iron);
}
.band {
  background: var(--brass);
}
.scale .band,
.scale .peaks {
  inset-block: 6px;
}
.peaks {
  background: var(--brass-wash);
  border: 1px dashed var(--brass);
}
.typical {
  width: 2px;
  background: var(--ink);
}
.axis {
  border-top: 0;
  padding: 0;
}
.plain {
  height: 16px;
  border: 0;
  background: none;
  font-size: var(--small);
  color: var(--quiet);
}
.plain span {
  position: absolute;
  transform: translateX(-50%);
}
.legend span {
  white-space: nowrap;
  margin-right: 10px;
}
.legend i {
  display: inline-block;
  width: 18px;
  height: 10px;
  margin-right: 4px;
}
</style>
