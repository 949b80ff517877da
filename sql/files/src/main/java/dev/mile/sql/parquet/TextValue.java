package dev.mile.sql.parquet;

import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * A text of a row: that of a column of the fact, or what a lookup has for it.
 *
 * @param column the column of the fact
 * @param byKey what stands for each text; null where each stands for itself
 */
public record TextValue(String column, @Nullable Map<String, String> byKey) {
    /** Returns what a text stands for; null for a blank. */
    @Nullable
    String of(String text) {
        return text.isEmpty() ? null : byKey == null ? text : byKey.get(text);
    }
}
