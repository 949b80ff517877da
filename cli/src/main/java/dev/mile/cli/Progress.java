package dev.mile.cli;

import dev.mile.internal.ShutdownHooks;
import java.io.PrintStream;
import java.util.Locale;
import java.util.function.DoubleConsumer;

/** Says how far long work is, and about how long it will still take: on one line of a terminal, or now and then in a log. */
final class Progress implements DoubleConsumer {
    private static final double SECOND = 1e9;
    private static final double FIRST = 1;
    private static final double NEXT_IN_LOG = 10;

    private final PrintStream out;
    private final String work;
    private final double first;
    private final boolean terminal = BaseCommand.isTerminal();
    private long begun;
    private double last;
    private double printedAt;

    /** Returns a listener to work that is called so: {@code reading}. */
    Progress(PrintStream out, String work) {
        this(out, work, FIRST);
    }

    /**
     * Returns a listener.
     *
     * @param first the seconds after which work is long
     */
    Progress(PrintStream out, String work, double first) {
        this.out = out;
        this.work = work;
        this.first = first;
        ShutdownHooks.add(new Thread(this::wipe, "mile ends its line"));
    }

    @Override
    public synchronized void accept(double share) {
        if (share >= 1) {
            wipe();
            begun = 0;
            return;
        }
        long now = System.nanoTime();
        if (begun == 0 || share < last) {
            // another statement
            begun = now;
            printedAt = 0;
        }
        last = share;
        double seconds = (now - begun) / SECOND;
        if (seconds < first || !terminal && printedAt > 0 && seconds < printedAt + NEXT_IN_LOG) {
            return;
        }
        printedAt = seconds;
        String text = String.format(
                Locale.ROOT, "%s: %.0f %%, about %.0f s left", work, share * 100, seconds * (1 - share) / share);
        if (terminal) {
            out.print("\r" + text + "   ");
            out.flush();
        } else {
            out.println(text);
        }
    }

    /** Takes the line off the terminal. */
    private synchronized void wipe() {
        if (terminal && printedAt > 0) {
            out.print("\r" + " ".repeat(50) + "\r");
            out.flush();
        }
        printedAt = 0;
    }
}
