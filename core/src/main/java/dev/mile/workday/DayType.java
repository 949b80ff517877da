package dev.mile.workday;

/** What a day is in a working week, in the order in which they sort. */
public enum DayType {
    /** Worked in full. */
    WORKING("working"),
    /** Worked in part. */
    PART("part"),
    /** A holiday that is no rest day. */
    HOLIDAY("holiday"),
    /** A rest day of the week, holiday or not. */
    REST("rest");

    private final String word;

    DayType(String word) {
        this.word = word;
    }

    /** {@return how people read it} */
    public String word() {
        return word;
    }
}
