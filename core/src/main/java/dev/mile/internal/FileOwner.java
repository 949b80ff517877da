package dev.mile.internal;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.HexFormat;

/**
 * The process that a temporary file belongs to, as its name says: the machine and the number of the process, since folders are shared between
 * machines, and numbers are not.
 */
public final class FileOwner {
    /** Numbers of more digits are no processes. */
    private static final int MOST_DIGITS = 18;

    private static final String MACHINE = machine();
    private static final long PROCESS = process();

    private FileOwner() {}

    /** Returns this process, for the name of a file: {@code 1c2f04aa-4711}. */
    public static String ofProcess() {
        return MACHINE + "-" + PROCESS;
    }

    /** Returns whether the name of a file, behind the prefix, begins with a process of this machine that has ended. */
    public static boolean hasEnded(String name, String prefix) {
        String machine = prefix + MACHINE + "-";
        if (!name.startsWith(machine)) {
            return false;
        }
        int digits = machine.length();
        while (digits < name.length() && name.charAt(digits) >= '0' && name.charAt(digits) <= '9') {
            digits++;
        }
        String process = name.substring(machine.length(), digits);
        return !process.isEmpty()
                && process.length() <= MOST_DIGITS
                && ProcessHandle.of(Long.parseLong(process)).isEmpty();
    }

    /** Java's own handle of this process starts threads, which takes longer than all else that is asked here. */
    private static long process() {
        try {
            return Long.parseLong(Files.readSymbolicLink(Path.of("/proc/self")).toString());
        } catch (IOException | RuntimeException e) {
            // not on Linux
            return ProcessHandle.current().pid();
        }
    }

    private static String machine() {
        String name = System.getenv().getOrDefault("COMPUTERNAME", "");
        try {
            name = Files.readString(Path.of("/proc/sys/kernel/hostname")).strip();
        } catch (IOException e) {
            // not on Linux
        }
        return HexFormat.of().toHexDigits(name.hashCode());
    }
}
