/** State of a control in a list: "limiter off"; a switch whose position has its own name is on. */
export const settingWords = (control: string, position: string): string =>
  `${control.toLowerCase()} ${position.toLowerCase() === control.toLowerCase() ? 'on' : position}`
