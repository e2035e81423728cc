/**
 * How much of a room was left or taken: its tail, what lies under and in the voice, the details
 * that went with it. In dereverb.
 */
package kettlesieve.core.measure.room;
