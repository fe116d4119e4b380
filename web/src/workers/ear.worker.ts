import { serveEars } from '@iron-hush/core/measure'
import { portOf } from './helper'

// listens to some of the channels of a clip, beside the worker that reads it
serveEars(portOf(globalThis as unknown as Worker))
