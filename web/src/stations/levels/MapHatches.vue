<template>
  <defs>
    <linearGradient id="soft-edge" x1="0" y1="0" x2="0" y2="1">
      <stop offset="0" stop-color="var(--brass-wash)" stop-opacity="0" />
      <stop offset="1" stop-color="var(--brass-wash)" />
    </linearGradient>
    <pattern
      id="hatch-ceiling"
      width="7"
      height="7"
      patternUnits="userSpaceOnUse"
      patternTransform="rotate(45)"
    >
      <rect width="7" height="7" fill="var(--iron-wash)" />
      <line y2="7" stroke="var(--iron)" stroke-width="2.2" />
    </pattern>
    <pattern id="hatch-floor" width="6" height="6" patternUnits="userSpaceOnUse">
      <rect width="6" height="6" fill="var(--slate-wash)" />
      <circle cx="1.5" cy="1.5" r="0.95" fill="var(--slate)" />
      <circle cx="4.5" cy="4.5" r="0.95" fill="var(--slate)" />
    </pattern>
    <pattern id="hatch-own" width="4" height="4" patternUnits="userSpaceOnUse">
      <rect width="4" height="4" fill="var(--slate-wash)" />
      <circle cx="1" cy="1" r="1" fill="var(--slate-deep)" />
      <circle cx="3" cy="3" r="1" fill="var(--slate-deep)" />
    </pattern>
    <pattern id="hatch-place" width="10" height="6" patternUnits="userSpaceOnUse">
      <path d="M0 2 q2.5 -2.4 5 0 t5 0" fill="none" stroke="var(--quiet)" stroke-width="0.8" />
    </pattern>
  </defs>
</template>
