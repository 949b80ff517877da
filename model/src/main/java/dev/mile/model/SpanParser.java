package dev.mile.model;

import dev.mile.calendar.Level;
import dev.mile.calendar.MileException;
import dev.mile.calendar.Texts;
import dev.mile.span.Span;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;

/** Reads the steps of section 6 of the design. */
final class SpanParser {
    private static final String STEPS =
            "a step: year to date, all to date, before, last 3 months, trailing 12 months, previous month, next 2 weeks, whole"
                    + " quarter, 1 year back, 2 weeks ahead, first day, last day, so far, to come, today, yesterday or this month";
    private static final String UNITS = "a unit: day, week, month, quarter, half or year";

    private final Words words;

    SpanParser(Words words) {
        this.words = words;
    }

    Span span() {
        Span span = step();
        while (words.took(",")) {
            span = span.then(step());
        }
        return span;
    }

    private Span step() {
        int at = words.peek().at();
        Span step;
        try {
            step = plainStep();
        } catch (MileException e) {
            throw new LanguageException(at, e.getMessage());
        }
        if (words.peek().is("in") && !words.peek(1).is("full")) {
            if (!step.steps().get(0).takesUnit()) {
                throw new LanguageException(
                        words.peek().at(), "`" + step + "` counts in no unit, so it takes no calendar; take `in` away");
            }
            words.take();
            step = step.in(words.name("the name of a calendar").text());
        }
        return step;
    }

    private Span plainStep() {
        if (words.took("all")) {
            toDate();
            return Span.allToDate();
        }
        if (words.took("before")) {
            return Span.before();
        }
        if (words.took("so", "far")) {
            return Span.soFar();
        }
        if (words.took("to", "come")) {
            return Span.toCome();
        }
        if (words.took("today")) {
            return Span.today();
        }
        if (words.took("yesterday")) {
            return Span.yesterday();
        }
        if (words.took("first", "day")) {
            return Span.firstDay();
        }
        if (words.took("this")) {
            return Span.current(unit());
        }
        if (words.took("whole")) {
            return Span.whole(unit());
        }
        if (words.peek().is("last")) {
            return last();
        }
        if (words.took("trailing")) {
            return Span.trailing(count(), unit());
        }
        if (words.took("previous")) {
            return Span.previous(count(), unit());
        }
        if (words.took("next")) {
            return Span.next(count(), unit());
        }
        if (words.peek().kind() == Token.Kind.NUMBER) {
            int count = count();
            return moved(count, unit());
        }
        Optional<Level> unit = Level.parse(words.peek().text());
        if (words.peek().kind() != Token.Kind.NAME || unit.isEmpty()) {
            throw unknown();
        }
        words.take();
        if (words.peek().is("back") || words.peek().is("ahead")) {
            return moved(1, unit.get());
        }
        toDate();
        return Span.toDate(unit.get());
    }

    private LanguageException unknown() {
        String near = words.peek().kind() == Token.Kind.NAME
                ? Texts.nearest(
                        words.peek().text(),
                        List.of(
                                "year",
                                "half",
                                "quarter",
                                "month",
                                "week",
                                "day",
                                "all",
                                "before",
                                "last",
                                "trailing",
                                "previous",
                                "next",
                                "whole",
                                "first",
                                "so",
                                "to",
                                "today",
                                "yesterday",
                                "this"))
                : "";
        return words.unexpected(STEPS + (near.startsWith("; did") ? near : ""));
    }

    private Span last() {
        Token last = words.take();
        if (words.peek().kind() == Token.Kind.NUMBER) {
            return Span.last(count(), unit());
        }
        Level unit = unit();
        if (unit == Level.DAY) {
            return Span.lastDay();
        }
        throw new LanguageException(
                last.at(),
                "`last " + unit.word() + "` means two things; say `previous " + unit.word() + "` for the whole "
                        + unit.word() + " before, or `last 1 " + unit.word() + "` for the current one so far");
    }

    private Span moved(int count, Level unit) {
        if (words.took("back")) {
            return Span.back(count, unit);
        }
        if (words.took("ahead")) {
            return Span.ahead(count, unit);
        }
        throw words.unexpected("back or ahead, or a word before the number: last, trailing, previous, next");
    }

    private void toDate() {
        if (!words.took("to", "date")) {
            throw words.unexpected("to date");
        }
    }

    private int count() {
        if (words.peek().kind() != Token.Kind.NUMBER) {
            return 1;
        }
        Token number = words.take();
        try {
            return Integer.parseInt(number.text());
        } catch (NumberFormatException e) {
            throw new LanguageException(number.at(), "'" + number.text() + "' is not a whole number of units");
        }
    }

    Level unit() {
        Token token = words.peek();
        Optional<Level> unit = token.kind() == Token.Kind.NAME ? Level.parse(token.text()) : Optional.empty();
        if (unit.isEmpty()) {
            String near = token.kind() == Token.Kind.NAME
                    ? Texts.nearest(
                            token.text(),
                            Arrays.stream(Level.values()).map(Level::word).toList())
                    : "";
            throw words.unexpected(UNITS + (near.startsWith("; did") ? near : ""));
        }
        words.take();
        return unit.get();
    }
}
