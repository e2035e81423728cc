package kettlesieve.calibrate.corpus;

import kettlesieve.core.audio.Audio;

/**
 * A scene as sound, one channel each.
 *
 * @param source clean plus noise
 * @param clean the speech alone
 * @param noise what was added to it
 * @param sample a second and a half of the same noise from elsewhere, as a person would learn it
 */
public record Material(Audio source, Audio clean, Audio noise, Audio sample) {}
