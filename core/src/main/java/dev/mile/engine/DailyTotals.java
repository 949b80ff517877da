package dev.mile.engine;

import dev.mile.internal.Overflow;
import java.io.Serializable;
import java.math.BigDecimal;
import java.util.Arrays;
import java.util.List;
import java.util.Objects;
import java.util.TreeSet;

/** The totals of one column of a group, one for each of its days, in primitive arrays wherever the numbers fit. */
public sealed interface DailyTotals extends Serializable {
    /**
     * {@return whether there is no value on the day at the place}
     *
     * @param place the index of the day
     */
    boolean isBlank(int place);

    /**
     * {@return the total at the place: a {@link BigDecimal}, or a {@link Double} for floating columns; null for a blank}
     *
     * @param place the index of the day
     */
    Number amount(int place);

    /**
     * Compares two totals that are not blank.
     *
     * @param place the index of the day
     * @param other the other
     * @return negative, 0 or positive
     */
    int compare(int place, int other);

    /**
     * {@return the totals from a place up to before another}
     *
     * @param from the index of the first day
     * @param to the index behind the last day
     */
    DailyTotals slice(int from, int to);

    /**
     * {@return one total for each bucket of places}
     *
     * @param kind what the totals are
     * @param from the first place of each bucket, then the place after the last
     */
    DailyTotals aggregate(TotalColumn.Kind kind, int[] from);

    /**
     * Exact decimals.
     *
     * @param unscaled the digits
     * @param scale how many of them follow the decimal point
     * @param blanks the places without a value; null where every place has one
     */
    record Longs(long[] unscaled, int scale, boolean[] blanks) implements DailyTotals {
        @Override
        public boolean isBlank(int place) {
            return blanks != null && blanks[place];
        }

        @Override
        public Number amount(int place) {
            return isBlank(place) ? null : BigDecimal.valueOf(unscaled[place], scale);
        }

        @Override
        public int compare(int place, int other) {
            return Long.compare(unscaled[place], unscaled[other]);
        }

        @Override
        public DailyTotals slice(int from, int to) {
            return new Longs(
                    Arrays.copyOfRange(unscaled, from, to),
                    scale,
                    blanks == null ? null : Arrays.copyOfRange(blanks, from, to));
        }

        @Override
        public DailyTotals aggregate(TotalColumn.Kind kind, int[] from) {
            if (blanks == null && kind != TotalColumn.Kind.MIN && kind != TotalColumn.Kind.MAX) {
                return sums(from);
            }
            long[] bucketed = new long[from.length - 1];
            boolean[] none = blanks == null ? null : new boolean[bucketed.length];
            for (int s = 0; s < bucketed.length; s++) {
                boolean found = false;
                long running = 0;
                for (int i = from[s]; i < from[s + 1]; i++) {
                    if (blanks != null && blanks[i]) {
                        continue;
                    }
                    long one = unscaled[i];
                    if (!found) {
                        running = one;
                        found = true;
                    } else if (kind == TotalColumn.Kind.MIN) {
                        running = Math.min(running, one);
                    } else if (kind == TotalColumn.Kind.MAX) {
                        running = Math.max(running, one);
                    } else {
                        long sum = running + one;
                        // both addends have another sign than the sum: the long has overflowed
                        if (Overflow.ofSum(running, one, sum)) {
                            return new Decimals(decimals()).aggregate(kind, from);
                        }
                        running = sum;
                    }
                }
                bucketed[s] = running;
                if (none != null) {
                    none[s] = !found;
                }
            }
            return new Longs(bucketed, scale, none);
        }

        /** The same for sums without blanks, as most are. */
        private DailyTotals sums(int[] from) {
            long[] bucketed = new long[from.length - 1];
            boolean over = false;
            for (int s = 0; s < bucketed.length; s++) {
                long running = 0;
                for (int i = from[s]; i < from[s + 1]; i++) {
                    long one = unscaled[i];
                    long sum = running + one;
                    over |= Overflow.ofSum(running, one, sum);
                    running = sum;
                }
                bucketed[s] = running;
            }
            return over
                    ? new Decimals(decimals()).aggregate(TotalColumn.Kind.SUM, from)
                    : new Longs(bucketed, scale, null);
        }

        private BigDecimal[] decimals() {
            BigDecimal[] decimals = new BigDecimal[unscaled.length];
            for (int i = 0; i < decimals.length; i++) {
                decimals[i] = isBlank(i) ? null : BigDecimal.valueOf(unscaled[i], scale);
            }
            return decimals;
        }
    }

    /**
     * Exact decimals of any size.
     *
     * @param values the totals, null for a blank
     */
    record Decimals(BigDecimal[] values) implements DailyTotals {
        @Override
        public boolean isBlank(int place) {
            return values[place] == null;
        }

        @Override
        public Number amount(int place) {
            return values[place];
        }

        @Override
        public int compare(int place, int other) {
            return values[place].compareTo(values[other]);
        }

        @Override
        public DailyTotals slice(int from, int to) {
            return new Decimals(Arrays.copyOfRange(values, from, to));
        }

        @Override
        public DailyTotals aggregate(TotalColumn.Kind kind, int[] from) {
            BigDecimal[] bucketed = new BigDecimal[from.length - 1];
            for (int s = 0; s < bucketed.length; s++) {
                for (int i = from[s]; i < from[s + 1]; i++) {
                    BigDecimal one = values[i];
                    BigDecimal running = bucketed[s];
                    if (running == null || one == null) {
                        bucketed[s] = running == null ? one : running;
                    } else {
                        bucketed[s] = switch (kind) {
                            case MIN -> running.min(one);
                            case MAX -> running.max(one);
                            default -> running.add(one);
                        };
                    }
                }
            }
            return DailyTotals.of(bucketed);
        }
    }

    /**
     * Binary floating numbers.
     *
     * @param values the totals, NaN for a blank
     */
    record Doubles(double[] values) implements DailyTotals {
        @Override
        public boolean isBlank(int place) {
            return Double.isNaN(values[place]);
        }

        @Override
        public Number amount(int place) {
            return isBlank(place) ? null : Double.valueOf(values[place]);
        }

        @Override
        public int compare(int place, int other) {
            return Double.compare(values[place], values[other]);
        }

        @Override
        public DailyTotals slice(int from, int to) {
            return new Doubles(Arrays.copyOfRange(values, from, to));
        }

        @Override
        public DailyTotals aggregate(TotalColumn.Kind kind, int[] from) {
            if (kind != TotalColumn.Kind.MIN && kind != TotalColumn.Kind.MAX) {
                throw new IllegalStateException("floating sums are not made of sums, which would lose digits");
            }
            double[] bucketed = new double[from.length - 1];
            for (int s = 0; s < bucketed.length; s++) {
                bucketed[s] = Double.NaN;
                for (int i = from[s]; i < from[s + 1]; i++) {
                    double one = values[i];
                    if (Double.isNaN(bucketed[s])
                            || (kind == TotalColumn.Kind.MIN ? one < bucketed[s] : one > bucketed[s])) {
                        bucketed[s] = one;
                    }
                }
            }
            return new Doubles(bucketed);
        }
    }

    /** The different texts of each day, for {@link TotalColumn.Kind#DISTINCT}; they are no amounts, and have no order. */
    sealed interface DistinctTexts extends DailyTotals {
        /** {@return the texts themselves} */
        StringSets toStringSets();

        @Override
        default Number amount(int place) {
            return null;
        }

        @Override
        default int compare(int place, int other) {
            return 0;
        }
    }

    /**
     * The values themselves, each once, for {@link TotalColumn.Kind#DISTINCT}.
     *
     * @param values by day; null if there is none
     */
    record StringSets(String[][] values) implements DistinctTexts {
        @Override
        public boolean isBlank(int place) {
            return values[place] == null;
        }

        @Override
        public StringSets toStringSets() {
            return this;
        }

        @Override
        public DailyTotals slice(int from, int to) {
            return new StringSets(Arrays.copyOfRange(values, from, to));
        }

        @Override
        public DailyTotals aggregate(TotalColumn.Kind kind, int[] from) {
            String[][] bucketed = new String[from.length - 1][];
            for (int s = 0; s < bucketed.length; s++) {
                TreeSet<String> all = new TreeSet<>(Comparisons.BY_CODE_POINT);
                for (int i = from[s]; i < from[s + 1]; i++) {
                    if (values[i] != null) {
                        all.addAll(Arrays.asList(values[i]));
                    }
                }
                bucketed[s] = all.isEmpty() ? null : all.toArray(String[]::new);
            }
            return new StringSets(bucketed);
        }
    }

    /**
     * The different texts of each day, as numbers in a list of texts that all groups of a cursor share.
     *
     * @param numbers the places in the list, each once; null for a blank
     * @param texts the list
     */
    record NumberedStrings(int[][] numbers, List<String> texts) implements DistinctTexts {
        @Override
        public boolean isBlank(int place) {
            return numbers[place] == null;
        }

        @Override
        public DailyTotals slice(int from, int to) {
            return new NumberedStrings(Arrays.copyOfRange(numbers, from, to), texts);
        }

        @Override
        public DailyTotals aggregate(TotalColumn.Kind kind, int[] from) {
            int[][] bucketed = new int[from.length - 1][];
            for (int s = 0; s < bucketed.length; s++) {
                int[] all = Arrays.stream(numbers, from[s], from[s + 1])
                        .filter(Objects::nonNull)
                        .flatMapToInt(Arrays::stream)
                        .sorted()
                        .distinct()
                        .toArray();
                bucketed[s] = all.length == 0 ? null : all;
            }
            return new NumberedStrings(bucketed, texts);
        }

        @Override
        public StringSets toStringSets() {
            String[][] values = new String[numbers.length][];
            for (int i = 0; i < values.length; i++) {
                if (numbers[i] != null) {
                    values[i] = new String[numbers[i].length];
                    for (int v = 0; v < values[i].length; v++) {
                        values[i][v] = texts.get(numbers[i][v]);
                    }
                }
            }
            return new StringSets(values);
        }
    }

    /**
     * {@return whole numbers without blanks: counts}
     *
     * @param counts how many, for each day
     */
    static DailyTotals counts(long[] counts) {
        return new Longs(counts, 0, null);
    }

    /**
     * {@return exact decimals, in primitive form if all fit into 18 digits at one scale}
     *
     * @param values a value for each day
     */
    static DailyTotals of(BigDecimal[] values) {
        int scale = 0;
        for (BigDecimal value : values) {
            scale = value == null ? scale : Math.max(scale, value.scale());
        }
        long[] unscaled = new long[values.length];
        boolean[] blanks = null;
        for (int i = 0; i < values.length; i++) {
            BigDecimal value = values[i];
            if (value == null) {
                blanks = blanks == null ? new boolean[values.length] : blanks;
                blanks[i] = true;
            } else if (value.precision() + scale - value.scale() > MOST_DIGITS) {
                return new Decimals(Arrays.copyOf(values, values.length));
            } else {
                unscaled[i] = value.setScale(scale).unscaledValue().longValue();
            }
        }
        return new Longs(unscaled, scale, blanks);
    }

    /** The decimal digits that any long can hold. */
    int MOST_DIGITS = 18;
}
