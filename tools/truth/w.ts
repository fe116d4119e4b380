import { scenes } from '../../core/src/tests/demo'
import { talkingVoice, loudestS } from '@iron-hush/core/render'
const v = talkingVoice(scenes[1]!.brief.sources[0]!, 48000, 3)
for (let f=0; f<48000*8; f+=4096) { const b=new Float32Array(4096); v.fill(b,f); const i=b.findIndex(Number.isNaN); if (i>=0) {console.log(f+i, (f+i)/48000, loudestS); break} }
