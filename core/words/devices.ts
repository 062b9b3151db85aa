/** What the devices and their stand-ins refuse. */
export const DEVICES = {
  'device.off': 'The simulated devices are switched off. Switch them on first.',
  'device.gone': 'The simulated devices were switched off. Switch them on again.',
  'device.notOpen': 'Switch the simulated devices on first.',
  'device.tooMany': 'Two sets of simulated devices are in use already. Finish one of those shoots first.',
  'device.noRail': 'There is no rail on this bench. Move the focus with the camera’s drive.',
  'device.battery': 'The camera’s battery is empty. Change it and continue with this frame.',
  'device.card': 'The card is full. Change it and continue with this frame.',
  'device.failed': ({ reason }: { reason: string }) => `A simulated device failed: ${reason}`,
  'device.objective': 'The simulated camera has a lens, not an objective. Bring your own frames for this plan.',
} as const
