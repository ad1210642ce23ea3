/** This device’s zone, minutes east of UTC. */
export const ownZone = () => -new Date().getTimezoneOffset()
