package dev.mile.report;

import dev.mile.calendar.FiscalCalendar;
import dev.mile.calendar.MileException;
import dev.mile.calendar.Texts;
import dev.mile.dimension.Events;
import dev.mile.fact.Fact;
import dev.mile.fact.Lookup;
import dev.mile.measure.Definition;
import dev.mile.measure.Measure;
import dev.mile.measure.Target;
import dev.mile.workday.WorkingWeek;
import java.time.DayOfWeek;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;

/**
 * All that a model says, wherever it was written: calendars, working weeks, facts, measures and reports. It holds no data.
 *
 * <p>Immutable; made by {@link #named}.
 */
public final class Project {
    private final Builder from;

    private Project(Builder from) {
        this.from = from;
    }

    /** Returns a builder of a project. */
    public static Builder named(String name) {
        return new Builder(name);
    }

    /** Returns its name. */
    public String name() {
        return from.name;
    }

    /** Returns the last day for which actuals count; empty for the latest day of the default fact. */
    public Optional<LocalDate> asOf() {
        return Optional.ofNullable(from.asOf);
    }

    /** Returns the language of month and weekday names. */
    public Locale locale() {
        return from.locale;
    }

    /** Returns the weekday on which weeks start. */
    public DayOfWeek weekStarts() {
        return from.weekStarts;
    }

    /** Returns the calendars; the first is the default. */
    public Map<String, FiscalCalendar> calendars() {
        return Collections.unmodifiableMap(from.calendars);
    }

    /** Returns the name of the default calendar. */
    public String defaultCalendar() {
        return from.calendars.keySet().iterator().next();
    }

    /** Returns the working weeks; the first is the default. */
    public Map<String, WorkingWeek> workingWeeks() {
        return Collections.unmodifiableMap(from.weeks);
    }

    /** Returns where the date dimension begins. */
    public RangeEnd rangeFrom() {
        return from.rangeFrom;
    }

    /** Returns where the date dimension ends. */
    public RangeEnd rangeTo() {
        return from.rangeTo;
    }

    /** Returns the facts; the first is the default. */
    public Map<String, Fact> facts() {
        return Collections.unmodifiableMap(from.facts);
    }

    /** Returns the lookups by name. */
    public Map<String, Lookup> lookups() {
        return Collections.unmodifiableMap(from.lookups);
    }

    /** Returns the events, each a column of the date dimension. */
    public List<Events> events() {
        return Collections.unmodifiableList(from.events);
    }

    /** Returns the measures by name. */
    public Map<String, Definition> measures() {
        return Collections.unmodifiableMap(from.measures);
    }

    /** Returns the targets by name. */
    public Map<String, Target> targets() {
        return Collections.unmodifiableMap(from.targets);
    }

    /** Returns the reports by name, in order. */
    public Map<String, Report> reports() {
        return Collections.unmodifiableMap(from.reports);
    }

    /** Returns the project with one more measure, made up on the spot. */
    public Project with(String measureName, Measure is) {
        Builder more = new Builder(from.name);
        more.asOf = from.asOf;
        more.locale = from.locale;
        more.weekStarts = from.weekStarts;
        more.rangeFrom = from.rangeFrom;
        more.rangeTo = from.rangeTo;
        more.calendars.putAll(from.calendars);
        more.weeks.putAll(from.weeks);
        more.facts.putAll(from.facts);
        more.lookups.putAll(from.lookups);
        more.events.addAll(from.events);
        more.measures.putAll(from.measures);
        more.targets.putAll(from.targets);
        more.reports.putAll(from.reports);
        return more.measure(measureName, is).build();
    }

    /**
     * Returns the report of the name.
     *
     * @throws MileException if there is none
     */
    public Report report(String name) {
        Report report = from.reports.get(name);
        if (report == null) {
            throw MileException.model("unknown report '%s'%s", name, Texts.nearest(name, from.reports.keySet()));
        }
        return report;
    }

    /** Collects a project; not for use by several threads. */
    public static final class Builder {
        private final String name;
        private LocalDate asOf;
        private Locale locale = Locale.ENGLISH;
        private DayOfWeek weekStarts = DayOfWeek.MONDAY;
        private RangeEnd rangeFrom = RangeEnd.FACTS;
        private RangeEnd rangeTo = RangeEnd.FACTS;
        private final Map<String, FiscalCalendar> calendars = new LinkedHashMap<>();
        private final Map<String, WorkingWeek> weeks = new LinkedHashMap<>();
        private final Map<String, Fact> facts = new LinkedHashMap<>();
        private final Map<String, Lookup> lookups = new LinkedHashMap<>();
        private final List<Events> events = new ArrayList<>();
        private final Map<String, Definition> measures = new LinkedHashMap<>();
        private final Map<String, Target> targets = new LinkedHashMap<>();
        private final Map<String, Report> reports = new LinkedHashMap<>();

        private Builder(String name) {
            this.name = name;
        }

        /** Sets the last day for which actuals count. */
        public Builder asOf(LocalDate day) {
            asOf = day;
            return this;
        }

        /** Sets the language of month and weekday names; English unless said. */
        public Builder locale(Locale language) {
            locale = language;
            return this;
        }

        /** Sets the weekday on which weeks start; Monday unless said. */
        public Builder weekStarts(DayOfWeek weekday) {
            weekStarts = weekday;
            return this;
        }

        /** Adds a calendar; the first is the default. */
        public Builder calendar(String calendarName, FiscalCalendar calendar) {
            calendars.put(calendarName, calendar);
            return this;
        }

        /** Adds a working week; the first is the default. */
        public Builder working(WorkingWeek week) {
            weeks.put(week.name(), week);
            return this;
        }

        /** Sets where the date dimension begins and ends; the dates in the facts unless said. */
        public Builder dates(RangeEnd first, RangeEnd last) {
            rangeFrom = first;
            rangeTo = last;
            return this;
        }

        /** Adds a fact; the first tells the as-of date where none is set. */
        public Builder fact(Fact fact) {
            facts.put(fact.name(), fact);
            return this;
        }

        /** Adds a lookup. */
        public Builder lookup(Lookup lookup) {
            lookups.put(lookup.name(), lookup);
            return this;
        }

        /** Adds a column of events to the date dimension. */
        public Builder events(Events more) {
            events.add(more);
            return this;
        }

        /** Adds a measure under a name. */
        public Builder measure(String measureName, Measure is) {
            return measure(Definition.of(measureName, is));
        }

        /** Adds a measure with its label and format. */
        public Builder measure(Definition definition) {
            measures.put(definition.name(), definition);
            return this;
        }

        /** Adds a target. */
        public Builder target(Target target) {
            targets.put(target.name(), target);
            return this;
        }

        /** Adds a report. */
        public Builder report(Report report) {
            reports.put(report.name(), report);
            return this;
        }

        /**
         * Returns the project; the builder must not be used on.
         *
         * @throws MileException if it has no calendar, or links to a lookup that is not there
         */
        public Project build() {
            if (calendars.isEmpty()) {
                throw MileException.model(
                        "the model has no calendar; add `calendars: {fiscal: {year_starts: april 1}}`, or the rule of your year");
            }
            facts.values().forEach(fact -> checkLinks("fact '" + fact.name() + "'", fact.links()));
            lookups.values().forEach(lookup -> checkLinks("lookup '" + lookup.name() + "'", lookup.links()));
            return new Project(this);
        }

        private void checkLinks(String of, Map<String, String> links) {
            links.forEach((column, lookup) -> {
                if (!lookups.containsKey(lookup)) {
                    throw MileException.model(
                            "the %s links '%s' to the unknown lookup '%s'%s",
                            of, column, lookup, Texts.nearest(lookup, lookups.keySet()));
                }
            });
        }
    }
}
