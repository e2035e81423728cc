package kettlesieve.app.shared;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicInteger;
import org.awaitility.Awaitility;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import org.testfx.framework.junit5.ApplicationExtension;

@ExtendWith(ApplicationExtension.class)
class TilesTest {
  @Test
  void piecesAreMadeOnceAndKept() {
    AtomicInteger made = new AtomicInteger();
    AtomicInteger arrived = new AtomicInteger();
    Tiles<Integer, String> tiles =
        new Tiles<>(
            10,
            k -> {
              made.incrementAndGet();
              return "tile " + k;
            },
            tile -> 1,
            arrived::incrementAndGet);
    assertThat(tiles.get(3)).isNull();
    Awaitility.await().until(() -> tiles.peek(3) != null && arrived.get() > 0);
    assertThat(tiles.get(3)).isEqualTo("tile 3");
    assertThat(made).hasValue(1);
    tiles.forget(k -> k == 3);
    assertThat(tiles.peek(3)).isNull();
  }

  @Test
  void whatWasAskedForLastIsMadeFirstAndTheOldestIsLetGo() throws Exception {
    CountDownLatch gate = new CountDownLatch(1);
    List<Integer> order = new CopyOnWriteArrayList<>();
    Tiles<Integer, Integer> tiles =
        new Tiles<>(
            5,
            k -> {
              try {
                gate.await(10, TimeUnit.SECONDS);
              } catch (InterruptedException e) {
                Thread.currentThread().interrupt();
              }
              order.add(k);
              return k;
            },
            tile -> 1,
            () -> {});
    for (int i = 0; i < 400; i++) {
      tiles.get(i);
    }
    gate.countDown();
    Awaitility.await().until(() -> order.size() >= 100 && tiles.peek(399) == null);
    assertThat(order.indexOf(399)).isLessThan(5);
    // Far more were asked for than are kept waiting: the first of them were dropped.
    assertThat(order).doesNotContain(10, 20, 30);
  }

  @Test
  void aPieceThatCannotBeMadeDoesNotStopTheOthers() {
    Tiles<Integer, Integer> tiles =
        new Tiles<>(
            5,
            k -> {
              if (k == 1) {
                throw new IllegalStateException("broken");
              }
              return k;
            },
            tile -> 1,
            () -> {});
    tiles.get(1);
    tiles.get(2);
    Awaitility.await().until(() -> tiles.peek(2) != null);
    assertThat(tiles.peek(1)).isNull();
  }

  @Test
  void runningOutOfMemoryOnceDoesNotEndDrawing() {
    AtomicInteger tries = new AtomicInteger();
    Tiles<Integer, Integer> tiles =
        new Tiles<>(
            5,
            k -> {
              if (k == 1 && tries.incrementAndGet() < 2) {
                throw new OutOfMemoryError("only for this test");
              }
              if (k == 3) {
                throw new StackOverflowError("only for this test");
              }
              return k;
            },
            tile -> 1,
            () -> {});
    // More failures than there are threads: each of them used to end one for good.
    for (int i = 0; i < 6; i++) {
      tiles.get(3);
      tiles.get(1);
    }
    Awaitility.await().until(() -> tiles.get(1) != null && tiles.get(2) != null);
    assertThat(tiles.peek(3)).isNull();
  }
}
