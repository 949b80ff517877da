package dev.mile.workday;

/** What a day is in a working week, in the order in which they sort. */
public enum DayType {
    WORKING("working"),
    PART("part"),
    HOLIDAY("holiday"),
    REST("rest");

    private final String word;

    DayType(String word) {
        this.word = word;
    }

    public String word() {
        return word;
    }
}
