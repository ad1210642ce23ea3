const BUZZ_MS = [160, 80, 160]
const TONE_HZ = 660
const TONE_S = 0.35

/** Say that a wait is over: a short vibration where there is one, a tone where it is wanted. */
export function rings(withSound: boolean): void {
  if ('vibrate' in navigator) navigator.vibrate(BUZZ_MS)
  if (!withSound) return
  try {
    const audio = new AudioContext()
    const tone = audio.createOscillator()
    const gain = audio.createGain()
    tone.frequency.value = TONE_HZ
    gain.gain.setValueAtTime(0.2, audio.currentTime)
    gain.gain.exponentialRampToValueAtTime(0.001, audio.currentTime + TONE_S)
    tone.connect(gain).connect(audio.destination)
    tone.start()
    tone.stop(audio.currentTime + TONE_S)
    tone.onended = () => void audio.close()
  } catch {
    // Sound is a courtesy: where the browser refuses, the screen still says it.
  }
}
