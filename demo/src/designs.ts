import type { StoredDesign } from '@allomorph/core';

export const designs: readonly StoredDesign[] = [
  {
    key: 'fennick-handbook',
    title: 'Fennick handbook',
    from: 'labelled',
    settings: {
      'colours.accent': '#14507a',
      'cover.arrangement': 'foot',
      'cover.over': '{company}',
      'cover.foot': '{company}, {variant}, {language}',
      'cover.picture': 'picture-station',
      'type.labels': 'sans',
      'blocks.admonitions.tip.sign': 'bulb',
      'stamps.set-value.frame': 'none',
      'stamps.set-value.weight': 'bold',
      'stamps.trained-staff.frame': 'box',
      'stamps.trained-staff.colour': '#8a3b12',
      'stamps.trained-staff.word': 'Trained staff only',
      'stamps.trained-staff.word@de': 'Nur für geschultes Personal',
      'stamps.workshop-only.word': 'Workshop only',
      'stamps.workshop-only.word@de': 'Nur für die Werkstatt',
      'web.footer': '{company}, {title}',
    },
  },
  {
    key: 'fennick-service',
    title: 'Fennick service manual',
    from: 'formal',
    settings: {
      'cover.over': '{company}',
      'cover.back': '{company}. For technicians only.',
      'stamps.set-value.frame': 'box',
      'stamps.trained-staff.frame': 'tint',
      'stamps.workshop-only.frame': 'bar',
      'stamps.workshop-only.colour': '#26323d',
      'stamps.workshop-only.word': 'Workshop only',
    },
  },
];
