package dev.mile.sql.query;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.catchThrowable;

import dev.mile.StoppedException;
import java.sql.SQLException;
import java.util.Queue;
import java.util.concurrent.ConcurrentLinkedQueue;
import java.util.concurrent.CountDownLatch;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;

@Timeout(60)
class BackgroundCallsTest {
    private final BackgroundCalls calls = new BackgroundCalls();
    private final CountDownLatch release = new CountDownLatch(1);
    private final Queue<String> events = new ConcurrentLinkedQueue<>();

    @Test
    void whatACallReturnsOrThrowsComesToItsCaller() throws SQLException {
        Thread caller = Thread.currentThread();
        assertThat(calls.call(Thread::currentThread, late -> {})).isNotSameAs(caller);
        SQLException failure = new SQLException("no such table");
        assertThatThrownBy(() -> calls.call(
                        () -> {
                            throw failure;
                        },
                        late -> {}))
                .isSameAs(failure);
        assertThatThrownBy(() -> calls.call(() -> Integer.parseInt("many"), late -> {}))
                .isInstanceOf(NumberFormatException.class);
    }

    /** The driver waits for a server that does not answer, whatever is done to its thread. */
    @Test
    void aCallThatDoesNotEndIsLeft() {
        Thread caller = Thread.currentThread();
        assertThatThrownBy(() -> calls.call(
                        () -> {
                            caller.interrupt();
                            while (release.getCount() > 0) {
                                Thread.onSpinWait();
                            }
                            return "rows";
                        },
                        late -> events.add("closed " + late)))
                .isInstanceOf(StoppedException.class);
        assertThat(Thread.interrupted()).isTrue();
        calls.end(() -> events.add("dropped"));
        assertThat(events).isEmpty();

        release.countDown();
        calls.awaitLeftCalls();
        assertThat(events).startsWith("closed rows");
        assertThat(Thread.currentThread().isInterrupted()).isFalse();
    }

    @Test
    void threadsForgetInterruptsOfEarlierCalls() throws SQLException {
        Thread caller = Thread.currentThread();
        for (int i = 0; i < 200; i++) {
            // it may have ended before its caller saw the interrupt
            catchThrowable(() -> calls.call(
                    () -> {
                        caller.interrupt();
                        return 1;
                    },
                    late -> {}));
            Thread.interrupted();
            assertThat(calls.call(() -> Thread.currentThread().isInterrupted(), late -> {}))
                    .isFalse();
        }
    }
}
