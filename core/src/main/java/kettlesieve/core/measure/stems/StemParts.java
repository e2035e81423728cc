package kettlesieve.core.measure.stems;

import kettlesieve.core.measure.pass.StemSums;

/** Sums over a part of time and frequency of what was gathered of all stems. */
record StemParts(StemSums sums) {
  /** Blocks and bands from, to before. */
  record Span(int fromBlock, int toBlock, int fromBand, int toBand) {}

  /** Something that was gathered by signal or tool, block and band. */
  interface Gathered {
    double at(int index, int block, int band);
  }

  int blocks() {
    return sums.blocks();
  }

  int bands() {
    return sums.bands();
  }

  Span everything() {
    return new Span(0, blocks(), 0, bands());
  }

  Span block(int block) {
    return new Span(block, block + 1, 0, bands());
  }

  Span band(int band) {
    return new Span(0, blocks(), band, band + 1);
  }

  Span cell(int block, int band) {
    return new Span(block, block + 1, band, band + 1);
  }

  double over(Gathered what, int index, Span span) {
    double sum = 0;
    for (int block = span.fromBlock(); block < span.toBlock(); block++) {
      for (int band = span.fromBand(); band < span.toBand(); band++) {
        sum += what.at(index, block, band);
      }
    }
    return sum;
  }

  /** Inner product of two signals. */
  double product(int i, int j, Span span) {
    return over((signal, block, band) -> sums.product(signal, j, block, band), i, span);
  }

  /** Whether a signal holds no more than such a share of the mix's energy. */
  boolean silent(int signal, double share) {
    return product(signal, signal, everything()) <= share * product(0, 0, everything());
  }
}
