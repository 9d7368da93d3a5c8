/** Names of chemistries and places as they are written on the pages. */
export const CHEMISTRIES = [
  { value: 'lfp', title: 'Lithium iron phosphate' },
  { value: 'agm', title: 'AGM lead-acid' },
  { value: 'gel', title: 'Gel lead-acid' },
  { value: 'flooded', title: 'Flooded lead-acid' },
  { value: 'starter', title: 'Starter battery' },
]

export const PLACES = [
  { value: 'living_space', title: 'Living space' },
  { value: 'utility_room', title: 'Utility room' },
  { value: 'garage', title: 'Garage' },
  { value: 'shed', title: 'Shed' },
  { value: 'outdoor_box', title: 'Outdoor box' },
]
