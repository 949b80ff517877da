package dev.mile.report;

import static java.util.Objects.requireNonNull;

import dev.mile.MileException;
import dev.mile.ModelException;
import dev.mile.SourceLocation;
import dev.mile.calendar.FiscalCalendar;
import dev.mile.calendar.SupportedDates;
import dev.mile.dimension.EventColumn;
import dev.mile.engine.DataSchema;
import dev.mile.engine.SchemaOwner;
import dev.mile.fact.Fact;
import dev.mile.fact.Lookup;
import dev.mile.internal.Messages;
import dev.mile.measure.Measure;
import dev.mile.measure.MeasureDefinition;
import dev.mile.measure.Target;
import dev.mile.workday.WorkingWeek;
import java.time.DayOfWeek;
import java.time.LocalDate;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Stream;

/**
 * Everything that a model defines, in a file or in Java: calendars, working weeks, facts, measures and reports. It holds no data.
 *
 * <p>Immutable and safe for use by several threads; made by {@link #named}.
 */
public final class Project implements SchemaOwner {
    private final String name;
    private final Optional<LocalDate> asOf;
    private final Locale locale;
    private final DayOfWeek weekStarts;
    private final DateBound rangeFrom;
    private final DateBound rangeTo;
    private final Map<String, FiscalCalendar> calendars;
    private final Map<String, WorkingWeek> workingWeeks;
    private final Map<String, Fact> facts;
    private final Map<String, Lookup> lookups;
    private final Map<String, EventColumn> events;
    private final Map<String, MeasureDefinition> measures;
    private final Map<String, Target> targets;
    private final Map<String, Report> reports;
    private final Map<String, Pack> packs;
    private final Map<String, String> labels;
    private final ElementLocations locations = new ElementLocations();

    private Project(Builder from) {
        name = from.name;
        asOf = from.asOf;
        locale = from.locale;
        weekStarts = from.weekStarts;
        rangeFrom = from.rangeFrom;
        rangeTo = from.rangeTo;
        calendars = copy(from.calendars);
        workingWeeks = copy(from.workingWeeks);
        facts = copy(from.facts);
        lookups = copy(from.lookups);
        events = copy(from.events);
        measures = copy(from.measures);
        targets = copy(from.targets);
        reports = copy(from.reports);
        packs = copy(from.packs);
        labels = copy(from.labels);
        locations.addAll(from.locations);
    }

    private static <T> Map<String, T> copy(Map<String, T> map) {
        return Collections.unmodifiableMap(new LinkedHashMap<>(map));
    }

    /**
     * {@return a builder of a project}
     *
     * @param name the name
     */
    public static Builder named(String name) {
        requireNonNull(name, "name is null");
        return new Builder(name);
    }

    /** {@return its name} */
    public String name() {
        return name;
    }

    /** {@return the last day for which actuals count; empty for the latest day of the default fact} */
    public Optional<LocalDate> asOf() {
        return asOf;
    }

    /** {@return the language of month and weekday names, and of the numbers and dates that people read} */
    public Locale locale() {
        return locale;
    }

    /** {@return the weekday on which weeks start} */
    public DayOfWeek weekStarts() {
        return weekStarts;
    }

    /** {@return the calendars by name, in order; the first is the default} */
    public Map<String, FiscalCalendar> calendars() {
        return calendars;
    }

    /** {@return the name of the default calendar} */
    public String defaultCalendar() {
        return calendars.keySet().iterator().next();
    }

    /** {@return the working weeks by name, in order; the first is the default} */
    public Map<String, WorkingWeek> workingWeeks() {
        return workingWeeks;
    }

    /** {@return where the date dimension begins} */
    public DateBound rangeFrom() {
        return rangeFrom;
    }

    /** {@return where the date dimension ends} */
    public DateBound rangeTo() {
        return rangeTo;
    }

    /** {@return the facts by name, in order; the first is the default} */
    public Map<String, Fact> facts() {
        return facts;
    }

    /** {@return the lookups by name, in order} */
    public Map<String, Lookup> lookups() {
        return lookups;
    }

    /** Returns its facts and lookups; their rows are in no file that it knows of. */
    @Override
    public DataSchema schema() {
        return DataSchema.of(facts, lookups);
    }

    /** {@return the events, each a column of the date dimension, in order} */
    public List<EventColumn> events() {
        return List.copyOf(events.values());
    }

    /** {@return the measures by name, in order} */
    public Map<String, MeasureDefinition> measures() {
        return measures;
    }

    /** {@return the targets by name, in order} */
    public Map<String, Target> targets() {
        return targets;
    }

    /** {@return how people read the names of dimensions; only those that have a label} */
    public Map<String, String> labels() {
        return labels;
    }

    /** {@return the reports by name, in order} */
    public Map<String, Report> reports() {
        return reports;
    }

    /** {@return the packs by name, in order} */
    public Map<String, Pack> packs() {
        return packs;
    }

    /**
     * {@return where the model file defines a measure, target, report or pack; empty for one that was made by a program}
     *
     * @param element what kind of thing it is
     * @param elementName its name
     */
    public Optional<SourceLocation> location(ModelElement element, String elementName) {
        requireNonNull(element, "element is null");
        requireNonNull(elementName, "elementName is null");
        return locations.of(element, elementName);
    }

    /**
     * {@return the error at the word of the element that it is about, or else at the element; the error itself where neither has a location}
     *
     * @param error an error about something that the element says
     * @param element what kind of thing it is
     * @param elementName its name
     */
    public MileException located(MileException error, ModelElement element, String elementName) {
        requireNonNull(error, "error is null");
        return locations.located(error, element, requireNonNull(elementName, "elementName is null"));
    }

    /** {@return whether a model file says it, so that messages are about what stands there} */
    public boolean isFromModelFile() {
        return !locations.isEmpty();
    }

    /**
     * {@return a project with one more measure, or with another one under a name that it has}
     *
     * @param measureName the name of the measure
     * @param measure the measure
     */
    public Project withMeasure(String measureName, Measure measure) {
        requireNonNull(measureName, "measureName is null");
        requireNonNull(measure, "measure is null");
        Builder more = toBuilder();
        more.measures.remove(measureName);
        return more.measure(measureName, measure).build();
    }

    /**
     * {@return all that is wrong with the project, whatever its data is: names in measures, targets and reports that name nothing} Columns
     * are known by the data only: {@link Session#check} looks at them.
     */
    public List<Finding> validate() {
        return toBuilder().validate();
    }

    /** {@return a builder that holds all of this project} */
    public Builder toBuilder() {
        Builder more = new Builder(name);
        more.asOf = asOf;
        more.locale = locale;
        more.weekStarts = weekStarts;
        more.rangeFrom = rangeFrom;
        more.rangeTo = rangeTo;
        more.calendars.putAll(calendars);
        more.workingWeeks.putAll(workingWeeks);
        more.facts.putAll(facts);
        more.lookups.putAll(lookups);
        more.events.putAll(events);
        more.measures.putAll(measures);
        more.targets.putAll(targets);
        more.reports.putAll(reports);
        more.packs.putAll(packs);
        more.labels.putAll(labels);
        more.locations.addAll(locations);
        return more;
    }

    /**
     * {@return the report of the name}
     *
     * @param reportName the name of the report
     * @throws MileException if there is none
     */
    public Report report(String reportName) {
        Report report = reports.get(requireNonNull(reportName, "reportName is null"));
        if (report == null) {
            throw ModelException.unknownName("report", reportName, reports.keySet());
        }
        return report;
    }

    private List<Object> state() {
        return List.of(
                name,
                asOf,
                locale,
                weekStarts,
                rangeFrom,
                rangeTo,
                List.copyOf(calendars.entrySet()),
                List.copyOf(workingWeeks.entrySet()),
                List.copyOf(facts.entrySet()),
                lookups,
                events(),
                measures,
                targets,
                List.copyOf(reports.entrySet()),
                List.copyOf(packs.entrySet()),
                labels);
    }

    /**
     * Returns whether the other is a project that says the same, in whatever file, with its calendars, working weeks, facts and reports in
     * the same order.
     */
    @Override
    public boolean equals(Object other) {
        return other instanceof Project project && project.state().equals(state());
    }

    @Override
    public int hashCode() {
        return state().hashCode();
    }

    /** Returns the name and how much there is: {@code Fernhollow (2 calendars, 3 facts, 12 measures, 4 reports)}. */
    @Override
    public String toString() {
        return name + " ("
                + String.join(
                        ", ",
                        Messages.quantity(calendars.size(), "calendar"),
                        Messages.quantity(facts.size(), "fact"),
                        Messages.quantity(measures.size(), "measure"),
                        Messages.quantity(reports.size(), "report"))
                + ")";
    }

    /** Collects a project. Each name is given once, and nothing is added after {@link #build}. Not for use by several threads. */
    public static final class Builder {
        private final String name;
        private Optional<LocalDate> asOf = Optional.empty();
        private Locale locale = Locale.ENGLISH;
        private DayOfWeek weekStarts = DayOfWeek.MONDAY;
        private DateBound rangeFrom = DateBound.fromFacts();
        private DateBound rangeTo = DateBound.fromFacts();
        private final Map<String, FiscalCalendar> calendars = new LinkedHashMap<>();
        private final Map<String, WorkingWeek> workingWeeks = new LinkedHashMap<>();
        private final Map<String, Fact> facts = new LinkedHashMap<>();
        private final Map<String, Lookup> lookups = new LinkedHashMap<>();
        private final Map<String, EventColumn> events = new LinkedHashMap<>();
        private final Map<String, MeasureDefinition> measures = new LinkedHashMap<>();
        private final Map<String, Target> targets = new LinkedHashMap<>();
        private final Map<String, Report> reports = new LinkedHashMap<>();
        private final Map<String, Pack> packs = new LinkedHashMap<>();
        private final Map<String, String> labels = new LinkedHashMap<>();
        private final ElementLocations locations = new ElementLocations();
        private boolean built;

        private Builder(String name) {
            this.name = requireNonNull(name, "name is null");
        }

        private void checkNotBuilt() {
            if (built) {
                throw new IllegalStateException("the project '" + name
                        + "' is built already; begin another one with Project.named, or take project.toBuilder()");
            }
        }

        private <T> Builder put(String kind, Map<String, T> map, String key, T value) {
            checkNotBuilt();
            requireNonNull(key, "name is null");
            requireNonNull(value, kind + " is null");
            if (map.putIfAbsent(key, value) != null) {
                throw ModelException.of(
                        "the project '%s' has two %ss named '%s'; give one of them another name", name, kind, key);
            }
            return this;
        }

        /**
         * Sets the last day for which actuals count.
         *
         * @param day the day
         * @return this builder
         */
        public Builder asOf(LocalDate day) {
            checkNotBuilt();
            asOf = Optional.of(SupportedDates.require(requireNonNull(day, "day is null")));
            return this;
        }

        /**
         * Sets the language of month and weekday names, and of the numbers and dates that people read; English unless said.
         *
         * @param language the language
         * @return this builder
         */
        public Builder locale(Locale language) {
            checkNotBuilt();
            locale = requireNonNull(language, "language is null");
            return this;
        }

        /**
         * Sets the weekday on which weeks start; Monday unless said.
         *
         * @param weekday the weekday
         * @return this builder
         */
        public Builder weekStarts(DayOfWeek weekday) {
            checkNotBuilt();
            weekStarts = requireNonNull(weekday, "weekday is null");
            return this;
        }

        /**
         * Adds a calendar; the first is the default.
         *
         * @param calendarName the name of the calendar
         * @param calendar the calendar
         * @return this builder
         */
        public Builder calendar(String calendarName, FiscalCalendar calendar) {
            requireNonNull(calendarName, "calendarName is null");
            requireNonNull(calendar, "calendar is null");
            return put("calendar", calendars, calendarName, calendar);
        }

        /**
         * Adds a working week; the first is the default.
         *
         * @param week the working week
         * @return this builder
         */
        public Builder working(WorkingWeek week) {
            return put(
                    "working week",
                    workingWeeks,
                    requireNonNull(week, "week is null").name(),
                    week);
        }

        /**
         * Sets where the date dimension begins and ends; the dates in the facts unless said.
         *
         * @param first where it begins
         * @param last where it ends
         * @return this builder
         */
        public Builder dates(DateBound first, DateBound last) {
            checkNotBuilt();
            rangeFrom = requireNonNull(first, "first is null");
            rangeTo = requireNonNull(last, "last is null");
            return this;
        }

        /**
         * Adds a fact; the first determines the as-of date if none is set.
         *
         * @param fact the fact
         * @return this builder
         */
        public Builder fact(Fact fact) {
            return put("fact", facts, requireNonNull(fact, "fact is null").name(), fact);
        }

        /**
         * Adds a lookup.
         *
         * @param lookup the lookup
         * @return this builder
         */
        public Builder lookup(Lookup lookup) {
            return put(
                    "lookup", lookups, requireNonNull(lookup, "lookup is null").name(), lookup);
        }

        /**
         * Adds a column of events to the date dimension.
         *
         * @param column the column
         * @return this builder
         */
        public Builder events(EventColumn column) {
            return put(
                    "event column",
                    events,
                    requireNonNull(column, "column is null").name(),
                    column);
        }

        /**
         * Adds a measure under a name.
         *
         * @param measureName the name of the measure
         * @param measure the measure
         * @return this builder
         */
        public Builder measure(String measureName, Measure measure) {
            requireNonNull(measureName, "measureName is null");
            requireNonNull(measure, "measure is null");
            return measure(MeasureDefinition.of(measureName, measure));
        }

        /**
         * Adds a measure with its label and format.
         *
         * @param definition the measure with its label and format
         * @return this builder
         */
        public Builder measure(MeasureDefinition definition) {
            return put(
                    "measure",
                    measures,
                    requireNonNull(definition, "definition is null").name(),
                    definition);
        }

        /**
         * Adds a target.
         *
         * @param target the target
         * @return this builder
         */
        public Builder target(Target target) {
            return put(
                    "target", targets, requireNonNull(target, "target is null").name(), target);
        }

        /**
         * Adds a report.
         *
         * @param report the report
         * @return this builder
         */
        public Builder report(Report report) {
            return put(
                    "report", reports, requireNonNull(report, "report is null").name(), report);
        }

        /**
         * Adds a pack of reports.
         *
         * @param pack the pack
         * @return this builder
         */
        public Builder pack(Pack pack) {
            return put("pack", packs, requireNonNull(pack, "pack is null").name(), pack);
        }

        /**
         * Adds how people read the name of a dimension.
         *
         * @param dimension a column of a fact, or of a lookup behind its name: {@code shops.region}
         * @param label how people read it
         * @return this builder
         * @throws MileException if it has another label already
         */
        public Builder label(String dimension, String label) {
            checkNotBuilt();
            requireNonNull(dimension, "dimension is null");
            requireNonNull(label, "label is null");
            String before = labels.putIfAbsent(dimension, label);
            if (before != null && !before.equals(label)) {
                throw ModelException.of(
                        "the dimension '%s' has the labels '%s' and '%s'; give it one", dimension, before, label);
            }
            return this;
        }

        /**
         * Sets where a measure, target, report or pack is defined, for messages.
         *
         * @param element what kind of thing it is
         * @param elementName its name
         * @param location where it is
         * @return this builder
         */
        public Builder location(ModelElement element, String elementName, SourceLocation location) {
            checkNotBuilt();
            locations.add(
                    requireNonNull(element, "element is null"),
                    requireNonNull(elementName, "elementName is null"),
                    requireNonNull(location, "location is null"));
            return this;
        }

        /**
         * Sets where a word in the definition of a measure, target, report or pack stands, for messages about that word; the first of equal ones
         * is kept.
         *
         * @param element what kind of thing it is
         * @param elementName its name
         * @param word the word, such as the name of a measure that a report shows
         * @param location where it is
         * @return this builder
         */
        public Builder location(ModelElement element, String elementName, String word, SourceLocation location) {
            checkNotBuilt();
            locations.addWord(
                    requireNonNull(element, "element is null"),
                    requireNonNull(elementName, "elementName is null"),
                    requireNonNull(word, "word is null"),
                    requireNonNull(location, "location is null"));
            return this;
        }

        /**
         * {@return the project}
         *
         * @throws MileException if it has no calendar, links to a lookup that is not there, or has a measure that refers to itself
         * @throws IllegalStateException if it was built before
         */
        public Project build() {
            checkNotBuilt();
            faults().ofStructure().stream().findFirst().ifPresent(fault -> {
                throw fault.error();
            });
            built = true;
            return new Project(this);
        }

        /**
         * {@return all that is wrong with the project, whatever its data is; none if it can be built and every name in its measures,
         * targets, reports and packs is one of its own} Columns are known by the data only: {@link Session#check} looks at them.
         */
        public List<Finding> validate() {
            return Stream.concat(faults().ofStructure().stream(), faults().ofNames().stream())
                    .map(ProjectFaults.Fault::finding)
                    .distinct()
                    .toList();
        }

        private ProjectFaults faults() {
            return new ProjectFaults(
                    calendars, workingWeeks, facts, lookups, measures, targets, reports, packs, locations);
        }
    }
}
