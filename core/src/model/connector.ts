import { z } from 'zod'

/** A plug or socket by its shape, and the two ways through the air. */
export const Connector = z.enum([
  'xlr-3',
  'ta-3',
  'mini-2',
  'mini-3',
  'mini-4',
  'jack-2',
  'jack-3',
  'rca',
  'usb-c',
  'fixed',
  'air',
  'radio',
])
export type Connector = z.infer<typeof Connector>

/** Connectors in words. */
export const connectorNames: Record<Connector, string> = {
  'xlr-3': 'XLR',
  'ta-3': 'small three-pin',
  'mini-2': '3.5 mm, two contacts',
  'mini-3': '3.5 mm, three contacts',
  'mini-4': '3.5 mm, four contacts',
  'jack-2': '6.35 mm, two contacts',
  'jack-3': '6.35 mm, three contacts',
  rca: 'phono',
  'usb-c': 'USB-C',
  fixed: 'fixed lead',
  air: 'open air',
  radio: 'aerial',
}

/** A connector with contacts that a circuit can be followed through. */
export type Shape = Exclude<Connector, 'air' | 'radio'>
export type Contact = string

/** Contacts of a shape in order, as the trade names them. */
export const contactsOf: Record<Shape, readonly Contact[]> = {
  'xlr-3': ['1', '2', '3'],
  'ta-3': ['1', '2', '3'],
  'mini-2': ['tip', 'sleeve'],
  'mini-3': ['tip', 'ring', 'sleeve'],
  'mini-4': ['tip', 'ring', 'second ring', 'sleeve'],
  'jack-2': ['tip', 'sleeve'],
  'jack-3': ['tip', 'ring', 'sleeve'],
  rca: ['tip', 'sleeve'],
  // the two lanes of its digital stream stand as contacts of their own
  'usb-c': ['left', 'right', 'microphone', 'ground', 'data left', 'data right'],
  // conductors of a lead that is wired for good
  fixed: ['left', 'right', 'cold', 'ground'],
}

/** Whether a connector has contacts, as a plug, a socket or the end of a fixed lead. */
export const hasContacts = (connector: Connector): connector is Shape => connector in contactsOf

/** Whether something can be plugged in there and pulled out again. */
export const isPluggable = (connector: Connector): connector is Exclude<Shape, 'fixed'> =>
  hasContacts(connector) && connector !== 'fixed'

/** Connectors of three pins, of which the first is ground. */
export const hasPins = (shape: Connector): boolean => shape === 'xlr-3' || shape === 'ta-3'

/**
 * The contact that is ground by the custom of a connector. Undefined for four contacts on 3.5 mm: both orders are in
 * use, with ground on the sleeve or on the second ring.
 */
export const groundContact = (shape: Shape): Contact | undefined =>
  hasPins(shape)
    ? '1'
    : shape === 'mini-4'
      ? undefined
      : shape === 'usb-c' || shape === 'fixed'
        ? 'ground'
        : 'sleeve'
