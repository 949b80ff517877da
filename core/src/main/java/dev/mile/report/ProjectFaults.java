package dev.mile.report;

import dev.mile.MileException;
import dev.mile.ModelException;
import dev.mile.calendar.FiscalCalendar;
import dev.mile.fact.Fact;
import dev.mile.fact.Lookup;
import dev.mile.fact.Spread;
import dev.mile.internal.Messages;
import dev.mile.measure.Measure;
import dev.mile.measure.MeasureDefinition;
import dev.mile.measure.Per;
import dev.mile.measure.Target;
import dev.mile.span.CalendarUnit;
import dev.mile.span.Step;
import dev.mile.workday.WorkingWeek;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/**
 * What is wrong with a project whatever its data is: names that name nothing, measures that refer to themselves. What columns there are
 * is known by the data only.
 */
record ProjectFaults(
        Map<String, FiscalCalendar> calendars,
        Map<String, WorkingWeek> workingWeeks,
        Map<String, Fact> facts,
        Map<String, Lookup> lookups,
        Map<String, MeasureDefinition> measures,
        Map<String, Target> targets,
        Map<String, Report> reports,
        Map<String, Pack> packs,
        ElementLocations locations) {
    /** How many levels deep a measure may be, with those that it names: each level takes some of a thread's stack. */
    private static final int MAX_NESTING = 600;

    private static final int MAX_LOOKUPS = 30;

    /**
     * A fault.
     *
     * @param subject what it is about: {@code growth}
     * @param error what is wrong, at its location if that is known
     */
    record Fault(String subject, MileException error) {
        Finding finding() {
            return new Finding(Finding.Severity.ERROR, subject, error.location(), error.sentence(), Optional.empty());
        }
    }

    /** Checks something and throws what is wrong with it. */
    private interface Check {
        void run();
    }

    /** Returns the faults with which there is no project. */
    List<Fault> ofStructure() {
        List<Fault> faults = new ArrayList<>();
        if (calendars.isEmpty()) {
            faults.add(new Fault(
                    "calendars",
                    ModelException.of("the project has no calendar; give it the rule of your year, such as"
                                    + " calendar(\"fiscal\", FiscalCalendar.startingIn(APRIL))")
                            .withModelWords(
                                    "the model has no calendar; add `calendars: {fiscal: {year_starts: april 1}}`, or the"
                                            + " rule of your year")));
        }
        facts.values().forEach(fact -> checkLinks(ModelElement.FACT, fact.name(), fact.links(), faults));
        lookups.values().forEach(lookup -> checkLinks(ModelElement.LOOKUP, lookup.name(), lookup.links(), faults));
        facts.values().forEach(fact -> check(ModelElement.FACT, fact.name(), () -> checkPlan(fact), faults));
        Map<String, Integer> checked = new HashMap<>();
        measures.values().forEach(definition -> checkCycle(definition, List.of(), checked, faults));
        Map<String, Integer> depths = new HashMap<>();
        lookups.keySet().forEach(lookup -> checkLookupDepth(lookup, List.of(), depths, faults));
        packs.values().forEach(pack -> checkPack(pack, faults));
        return faults;
    }

    /** Returns the faults of names in measures, targets and reports. */
    List<Fault> ofNames() {
        List<Fault> faults = new ArrayList<>();
        measures.values()
                .forEach(definition ->
                        checkMeasure(ModelElement.MEASURE, definition.name(), definition.expression(), faults));
        targets.values().forEach(target -> {
            check(
                    ModelElement.TARGET,
                    target.name(),
                    () -> known("measure", target.measure(), measures.keySet()),
                    faults);
            checkMeasure(ModelElement.TARGET, target.name(), target.against(), faults);
        });
        reports.values().forEach(report -> checkReport(report, faults));
        return faults;
    }

    private void check(ModelElement element, String name, Check check, List<Fault> faults) {
        try {
            check.run();
        } catch (MileException e) {
            add(element, name, e, faults);
        }
    }

    private void add(ModelElement element, String name, MileException error, List<Fault> faults) {
        faults.add(new Fault(name, locations.located(error, element, name)));
    }

    private static void known(String kind, String name, Set<String> known) {
        if (!known.contains(name)) {
            throw ModelException.unknownName(kind, name, known);
        }
    }

    private void checkMeasure(ModelElement element, String name, Measure measure, List<Fault> faults) {
        if (measure instanceof Measure.Named named) {
            check(element, name, () -> known("measure", named.name(), measures.keySet()), faults);
        }
        if (measure instanceof Measure.Aggregate aggregate) {
            check(element, name, () -> known("fact", aggregate.fact(), facts.keySet()), faults);
        }
        if (measure instanceof Measure.DayCount count) {
            count.week()
                    .ifPresent(week ->
                            check(element, name, () -> known("working week", week, workingWeeks.keySet()), faults));
        }
        if (measure instanceof Measure.Qualified qualified) {
            checkClauses(element, name, qualified, faults);
        }
        measure.parts().forEach(part -> checkMeasure(element, name, part, faults));
    }

    private void checkClauses(ModelElement element, String name, Measure.Qualified qualified, List<Fault> faults) {
        for (Step step : qualified.clauses().over().steps()) {
            step.countedIn()
                    .flatMap(CalendarUnit::calendar)
                    .ifPresent(calendar -> checkCalendar(element, name, calendar, faults));
        }
        Optional<Per> per = qualified.clauses().per();
        per.flatMap(Per::calendar).ifPresent(calendar -> checkCalendar(element, name, calendar, faults));
        per.flatMap(Per::week)
                .ifPresent(
                        week -> check(element, name, () -> known("working week", week, workingWeeks.keySet()), faults));
        qualified.clauses().on().ifPresent(role -> check(element, name, () -> checkRole(qualified, role), faults));
    }

    private void checkCalendar(ModelElement element, String name, String calendar, List<Fault> faults) {
        check(element, name, () -> known("calendar", calendar, calendars.keySet()), faults);
    }

    /** At least one of the facts below must have the date role. */
    private void checkRole(Measure measure, String role) {
        Set<String> below = new LinkedHashSet<>();
        addFacts(measure, new HashSet<>(), below);
        List<Fact> known =
                below.stream().filter(facts::containsKey).map(facts::get).toList();
        if (!known.isEmpty() && known.stream().noneMatch(fact -> fact.roles().contains(role))) {
            throw known.get(0).unknownRole(role);
        }
    }

    private void addFacts(Measure measure, Set<String> seen, Set<String> found) {
        if (measure instanceof Measure.Aggregate aggregate) {
            found.add(aggregate.fact());
        }
        if (measure instanceof Measure.Named named && measures.containsKey(named.name()) && seen.add(named.name())) {
            addFacts(measures.get(named.name()).expression(), seen, found);
        }
        measure.parts().forEach(part -> addFacts(part, seen, found));
    }

    private void checkReport(Report report, List<Fault> faults) {
        Set<String> shown = new LinkedHashSet<>(measures.keySet());
        shown.addAll(targets.keySet());
        for (String name : report.show()) {
            check(ModelElement.REPORT, report.name(), () -> known("measure or target", name, shown), faults);
        }
        report.calendar().ifPresent(calendar -> checkCalendar(ModelElement.REPORT, report.name(), calendar, faults));
        report.sort()
                .map(Report.Sort::measure)
                .ifPresent(name -> check(
                        ModelElement.REPORT, report.name(), () -> known("measure", name, measures.keySet()), faults));
        report.top()
                .map(Report.Top::measure)
                .ifPresent(name -> check(
                        ModelElement.REPORT, report.name(), () -> known("measure", name, measures.keySet()), faults));
    }

    private void checkPack(Pack pack, List<Fault> faults) {
        if (reports.containsKey(pack.name())) {
            add(
                    ModelElement.PACK,
                    pack.name(),
                    ModelException.of("'%s' is the name of a report too; give the pack another name", pack.name()),
                    faults);
        }
        pack.reports()
                .forEach(name ->
                        check(ModelElement.PACK, pack.name(), () -> known("report", name, reports.keySet()), faults));
    }

    private void checkLinks(ModelElement element, String name, Map<String, String> links, List<Fault> faults) {
        links.forEach((column, lookup) -> check(
                element,
                name,
                () -> {
                    if (!lookups.containsKey(lookup)) {
                        throw ModelException.of(
                                "the %s '%s' links '%s' to the unknown lookup '%s'%s",
                                element.name().toLowerCase(Locale.ROOT),
                                name,
                                column,
                                lookup,
                                Messages.didYouMean(lookup, lookups.keySet()));
                    }
                },
                faults));
    }

    /** The periods that a plan names must be in its calendar, and what it is spread like must not be spread like itself. */
    private void checkPlan(Fact fact) {
        fact.grain().filter(grain -> !calendars.isEmpty()).ifPresent(grain -> {
            String name = grain.calendar()
                    .orElseGet(() -> calendars.keySet().iterator().next());
            known("calendar", name, calendars.keySet());
            calendars.get(name).requireLevel(name, grain.level());
        });
        if (fact.spread() instanceof Spread.WorkingDays working) {
            working.week().ifPresent(week -> known("working week", week, workingWeeks.keySet()));
        }
        List<String> path = new ArrayList<>(List.of(fact.name()));
        Fact spread = fact;
        while (spread.grain().isPresent() && spread.spread() instanceof Spread.Like like) {
            known("fact", like.fact(), facts.keySet());
            boolean cycle = path.contains(like.fact());
            path.add(like.fact());
            if (cycle) {
                throw ModelException.of(
                        "the fact '%s' is spread like itself (%s); spread one of them over days or working days",
                        like.fact(), String.join(" → ", path));
            }
            spread = facts.get(like.fact());
        }
    }

    /**
     * Follows the names in a measure down to data.
     *
     * @param path the measures that lead to this one
     * @param checked how deep those are nested below which nothing is left to find
     */
    private void checkCycle(
            MeasureDefinition definition, List<String> path, Map<String, Integer> checked, List<Fault> faults) {
        String measure = definition.name();
        if (path.contains(measure)) {
            List<String> cycle = new ArrayList<>(path.subList(path.indexOf(measure), path.size()));
            cycle.add(measure);
            add(ModelElement.MEASURE, measure, ModelException.cycle("measure", cycle), faults);
            return;
        }
        if (checked.containsKey(measure)) {
            return;
        }
        if (path.size() >= MAX_NESTING) {
            addTooDeep(measure, checked, faults);
            return;
        }
        List<String> longer = new ArrayList<>(path);
        longer.add(measure);
        for (String name : definition.expression().names()) {
            if (measures.containsKey(name)) {
                checkCycle(measures.get(name), longer, checked, faults);
            }
        }
        if (depth(definition.expression(), checked) > MAX_NESTING) {
            addTooDeep(measure, checked, faults);
        } else {
            checked.put(measure, depth(definition.expression(), checked));
        }
    }

    private void addTooDeep(String measure, Map<String, Integer> checked, List<Fault> faults) {
        // one fault is enough: those above are as deep
        checked.put(measure, 0);
        add(
                ModelElement.MEASURE,
                measure,
                ModelException.of(
                        "the measure '%s' is nested more than %d levels deep, with the measures that it names; name fewer of them"
                                + " one in another",
                        measure, MAX_NESTING),
                faults);
    }

    private static int depth(Measure measure, Map<String, Integer> depths) {
        if (measure instanceof Measure.Named named) {
            return Math.max(1, depths.getOrDefault(named.name(), 0));
        }
        return 1
                + measure.parts().stream()
                        .mapToInt(part -> depth(part, depths))
                        .max()
                        .orElse(0);
    }

    /** Lookups that link to others are joined one behind the other. */
    private void checkLookupDepth(String lookup, List<String> path, Map<String, Integer> depths, List<Fault> faults) {
        if (depths.containsKey(lookup) || path.contains(lookup) || !lookups.containsKey(lookup)) {
            return;
        }
        List<String> longer = new ArrayList<>(path);
        longer.add(lookup);
        int depth = 0;
        if (longer.size() <= MAX_LOOKUPS) {
            for (String next : lookups.get(lookup).links().values()) {
                checkLookupDepth(next, longer, depths, faults);
                depth = Math.max(depth, depths.getOrDefault(next, 0));
            }
        }
        depths.put(lookup, depth + 1);
        if (depth + 1 > MAX_LOOKUPS || longer.size() > MAX_LOOKUPS) {
            depths.put(lookup, 0);
            add(
                    ModelElement.LOOKUP,
                    lookup,
                    ModelException.of(
                            "the lookup '%s' is one of more than %d that link to each other in a row; join some of them into one table",
                            lookup, MAX_LOOKUPS),
                    faults);
        }
    }
}
