import { scenes, shelf } from '../../core/src/tests/demo'
import { balance } from '@iron-hush/core/balance'
const t=performance.now(); const b=balance(scenes[4]!, shelf)!; console.log(performance.now()-t, b.evaluations, b.combinations)
