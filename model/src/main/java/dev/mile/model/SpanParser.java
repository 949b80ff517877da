package dev.mile.model;

import dev.mile.MileException;
import dev.mile.calendar.Level;
import dev.mile.internal.Messages;
import dev.mile.span.Span;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;

/** Reads the steps of a span (docs/language.md). */
final class SpanParser {
    private static final String STEPS =
            "a step: year to date, all to date, before, last 3 months, trailing 12 months, previous month, next 2 weeks, whole"
                    + " quarter, 1 year back, 2 weeks ahead, first day, last day, so far, to come, today, yesterday or this month";
    private static final String UNITS = "a unit: day, week, month, quarter, half or year";

    private final TokenStream words;

    SpanParser(TokenStream words) {
        this.words = words;
    }

    Span span() {
        Span span = step();
        while (words.accept(",")) {
            span = span.then(step());
        }
        return span;
    }

    private Span step() {
        int at = words.peek().offset();
        Span step;
        try {
            step = plainStep();
        } catch (MileException e) {
            throw new SyntaxException(at, e.getMessage());
        }
        if (words.peek().is("in") && !words.peek(1).is("full")) {
            if (step.steps().get(0).countedIn().isEmpty()) {
                throw new SyntaxException(
                        words.peek().offset(),
                        "`" + step + "` counts in no unit, so it takes no calendar; take `in` away");
            }
            words.next();
            step = step.withCalendar(words.expectName("the name of a calendar").text());
        }
        return step;
    }

    private Span plainStep() {
        if (words.accept("all")) {
            toDate();
            return Span.allToDate();
        }
        if (words.accept("before")) {
            return Span.before();
        }
        if (words.accept("so", "far")) {
            return Span.soFar();
        }
        if (words.accept("to", "come")) {
            return Span.toCome();
        }
        if (words.accept("today")) {
            return Span.today();
        }
        if (words.accept("yesterday")) {
            return Span.yesterday();
        }
        if (words.accept("first", "day")) {
            return Span.firstDay();
        }
        if (words.accept("this")) {
            return Span.current(unit());
        }
        if (words.accept("whole")) {
            return Span.whole(unit());
        }
        if (words.peek().is("last")) {
            return last();
        }
        if (words.accept("trailing")) {
            return Span.trailing(count(), unit());
        }
        if (words.accept("previous")) {
            return Span.previous(count(), unit());
        }
        if (words.accept("next")) {
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
        words.next();
        if (words.peek().is("back") || words.peek().is("ahead")) {
            return moved(1, unit.get());
        }
        toDate();
        return Span.toDate(unit.get());
    }

    private SyntaxException unknown() {
        Optional<String> near = words.peek().kind() == Token.Kind.NAME
                ? Messages.closestMatch(
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
                : Optional.empty();
        return words.unexpected(
                STEPS + near.map(word -> "; did you mean '" + word + "'?").orElse(""));
    }

    private Span last() {
        Token last = words.next();
        if (words.peek().kind() == Token.Kind.NUMBER) {
            return Span.last(count(), unit());
        }
        Level unit = unit();
        if (unit == Level.DAY) {
            return Span.lastDay();
        }
        throw new SyntaxException(
                last.offset(),
                "`last " + unit.word() + "` means two things; say `previous " + unit.word() + "` for the whole "
                        + unit.word() + " before, or `last 1 " + unit.word() + "` for the current one so far");
    }

    private Span moved(int count, Level unit) {
        if (words.accept("back")) {
            return Span.back(count, unit);
        }
        if (words.accept("ahead")) {
            return Span.ahead(count, unit);
        }
        throw words.unexpected("back or ahead, or a word before the number: last, trailing, previous, next");
    }

    private void toDate() {
        if (!words.accept("to", "date")) {
            throw words.unexpected("to date");
        }
    }

    private int count() {
        if (words.peek().kind() != Token.Kind.NUMBER) {
            return 1;
        }
        Token number = words.next();
        try {
            return Integer.parseInt(number.text());
        } catch (NumberFormatException e) {
            throw new SyntaxException(number.offset(), "'" + number.text() + "' is not a whole number of units");
        }
    }

    Level unit() {
        Token token = words.peek();
        Optional<Level> unit = token.kind() == Token.Kind.NAME ? Level.parse(token.text()) : Optional.empty();
        if (unit.isEmpty()) {
            Optional<String> near = token.kind() == Token.Kind.NAME
                    ? Messages.closestMatch(
                            token.text(),
                            Arrays.stream(Level.values()).map(Level::word).toList())
                    : Optional.empty();
            throw words.unexpected(
                    UNITS + near.map(word -> "; did you mean '" + word + "'?").orElse(""));
        }
        words.next();
        return unit.get();
    }
}
