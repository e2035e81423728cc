package kettlesieve.core.measure.noise;

import kettlesieve.core.measure.Pair;
import kettlesieve.core.measure.PlaceGrid;
import kettlesieve.core.measure.WantedEnergies;

/** Gains of the wanted cells by place. */
final class WantedPlaces {
  private WantedPlaces() {}

  /** Gain in dB of every frame and band with wanted cells, weighted by their number. */
  static PlaceGrid gains(Pair pair, WantedEnergies energies) {
    PlaceGrid places = new PlaceGrid(pair.timeline(), pair.bands().count());
    for (int t = pair.firstFrame(); t < pair.endFrame(); t++) {
      for (int b = 0; b < pair.bands().count(); b++) {
        if (energies.count(t, b) > 0) {
          double gain = WantedEnergies.gainDb(energies.source(t, b), energies.version(t, b));
          places.add(t, b, gain, energies.count(t, b));
        }
      }
    }
    return places;
  }
}
