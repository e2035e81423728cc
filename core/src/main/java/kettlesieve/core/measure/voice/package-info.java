/**
 * What became of the wanted sound: lost, dulled, uneven, distorted, ringing; and what is gathered
 * of its cells. The same measures serve denoise, dereverb, stems and stretched versions, so they
 * ask the gatherings of room, noise, stems and warp.
 */
package kettlesieve.core.measure.voice;
