package kettlesieve.core.signal;

/** Coefficients of a second-order recursive filter, normalised so that a0 = 1. */
public record Biquad(double b0, double b1, double b2, double a1, double a2) {}
