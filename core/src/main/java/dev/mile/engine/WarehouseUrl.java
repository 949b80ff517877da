package dev.mile.engine;

import dev.mile.MileException;
import dev.mile.ModelException;
import java.net.URLDecoder;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Locale;
import java.util.regex.Pattern;

/**
 * Checks a JDBC url that comes from a model, which may not be trusted: it holds no secret, and no setting with which a driver loads classes,
 * runs statements or writes files. Messages never show the url, since what is wrong with it may be a password.
 */
final class WarehouseUrl {
    private static final Pattern JDBC = Pattern.compile("jdbc:[a-z0-9]+:.+");
    private static final int ENCODINGS = 3;
    private static final int MAX_LENGTH = 2_000;

    /** {@code //user:password@host} and {@code user/password@host}, before any settings. */
    private static final Pattern LOGIN = Pattern.compile("[^?;]*(//[^?;]*:[^?;]*@|:[^?;:/@]+/[^?;@]+@).*");

    private static final Pattern SECRET =
            Pattern.compile(".*(password|passwd|pwd|passphrase|secret|token|credential).*");

    /** What names of such settings hold, in the drivers that are known. */
    private static final List<String> LOADING = List.of(
            "factory",
            "class",
            "listener",
            "interceptor",
            "plugin",
            "deserialize",
            "serializer",
            "transform",
            "trace",
            "logger",
            "logfile",
            "logwriter",
            "loglevel",
            "script",
            "callback",
            "handler",
            "verifier",
            "infile",
            "auto_server");

    private static final List<String> STATEMENTS = List.of("init", "initsql", "connectioninitsql", "sessionvariables");

    private WarehouseUrl() {}

    /**
     * Returns the url.
     *
     * @throws MileException if it is no JDBC url, or holds what it should not
     */
    static String require(String url) {
        if (url.chars().anyMatch(Character::isISOControl)) {
            throw ModelException.of("the url holds a line break or another control character; write it on one line");
        }
        if (url.length() > MAX_LENGTH) {
            throw ModelException.of("the url has more than %d characters", MAX_LENGTH);
        }
        String decoded = decoded(url);
        String small = decoded.toLowerCase(Locale.ROOT);
        for (String setting : small.split("[?&;,()]")) {
            String name = setting.contains("=")
                    ? setting.substring(0, setting.indexOf('=')).strip()
                    : "";
            if (SECRET.matcher(name).matches()) {
                throw secret();
            }
            if (STATEMENTS.contains(name) || LOADING.stream().anyMatch(name::contains)) {
                throw ModelException.of(
                        "the url has the setting '%s', with which drivers load classes, run statements or write files; take it away, or let"
                                + " a program of your own connect, with a DataSource",
                        name);
            }
        }
        if (LOGIN.matcher(small).matches()) {
            throw secret();
        }
        if (!JDBC.matcher(url).matches()) {
            throw ModelException.of("this is no JDBC url; expected one such as jdbc:postgresql://HOST/NAME");
        }
        return url;
    }

    private static ModelException secret() {
        return (ModelException) ModelException.of(
                        "the url holds a password; say where it is kept, with Warehouse.withPassword")
                .withModelWords("the url holds a password; put it into a variable and write `password_variable: NAME`");
    }

    /** Returns the url with encoded characters as they are; drivers decode names of settings. */
    private static String decoded(String url) {
        String decoded = url;
        for (int i = 0; i < ENCODINGS && decoded.contains("%"); i++) {
            try {
                decoded = URLDecoder.decode(decoded.replace("+", "%2B"), StandardCharsets.UTF_8);
            } catch (IllegalArgumentException e) {
                return decoded;
            }
        }
        return decoded;
    }
}
