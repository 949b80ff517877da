package dev.mile.sql.cache;

import java.io.ByteArrayOutputStream;
import java.lang.reflect.InvocationTargetException;
import java.lang.reflect.RecordComponent;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.Collection;
import java.util.HexFormat;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;

/** A digest of all that an answer depends on. Each part is written with its type and length, so that different inputs cannot collide by concatenation. */
final class CacheKey {
    private static final int LETTERS = 40;

    private final ByteArrayOutputStream parts = new ByteArrayOutputStream();

    /** Adds a part: a record by its components, a collection or map by what is in it, and all else by its text. */
    CacheKey add(Object part) {
        if (part instanceof Record record) {
            text(record.getClass().getName());
            for (RecordComponent component : record.getClass().getRecordComponents()) {
                try {
                    add(component.getAccessor().invoke(record));
                } catch (IllegalAccessException | InvocationTargetException e) {
                    throw new IllegalStateException("records of the core are open to all", e);
                }
            }
        } else if (part instanceof Optional<?> optional) {
            text("optional");
            add(optional.orElse(null));
        } else if (part instanceof Map<?, ?> map) {
            text("map " + map.size());
            // some maps have another order in every run
            Map<String, Object> sorted = new TreeMap<>();
            map.forEach((key, value) -> sorted.put(String.valueOf(key), value));
            sorted.forEach((key, value) -> add(key).add(value));
        } else if (part instanceof Collection<?> some) {
            text("list " + some.size());
            some.forEach(this::add);
        } else {
            text(part == null ? "null" : part.getClass().getName());
            text(String.valueOf(part));
        }
        return this;
    }

    CacheKey add(long number) {
        for (int shift = 0; shift < Long.SIZE; shift += Byte.SIZE) {
            parts.write((byte) (number >>> shift));
        }
        return this;
    }

    private void text(String text) {
        byte[] bytes = text.getBytes(StandardCharsets.UTF_8);
        add(bytes.length);
        parts.writeBytes(bytes);
    }

    /** Returns the digest, for the name of a file. */
    String name() {
        try {
            byte[] digest = MessageDigest.getInstance("SHA-256").digest(parts.toByteArray());
            return HexFormat.of().formatHex(digest).substring(0, LETTERS);
        } catch (NoSuchAlgorithmException e) {
            throw new IllegalStateException("every Java has SHA-256", e);
        }
    }
}
