package dev.mile.internal;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Locale;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * The process that a temporary file belongs to, as its name says: the machine and the number of the process, since folders are shared between
 * machines, and numbers are not.
 */
public final class FileOwner {
    private static final Pattern OWNER = Pattern.compile("([0-9a-f]{8})-([0-9]{1,18})");
    private static final String MACHINE = machine();

    private FileOwner() {}

    /** Returns this process, for the name of a file: {@code 1c2f04aa-4711}. */
    public static String ofProcess() {
        return MACHINE + "-" + ProcessHandle.current().pid();
    }

    /** Returns whether the name of a file, behind the prefix, begins with a process of this machine that has ended. */
    public static boolean hasEnded(String name, String prefix) {
        if (!name.startsWith(prefix)) {
            return false;
        }
        Matcher owner = OWNER.matcher(name.substring(prefix.length()));
        return owner.lookingAt()
                && owner.group(1).equals(MACHINE)
                && ProcessHandle.of(Long.parseLong(owner.group(2))).isEmpty();
    }

    private static String machine() {
        String name = System.getenv().getOrDefault("COMPUTERNAME", "");
        try {
            name = Files.readString(Path.of("/proc/sys/kernel/hostname")).strip();
        } catch (IOException e) {
            // not on Linux
        }
        return String.format(Locale.ROOT, "%08x", name.hashCode());
    }
}
