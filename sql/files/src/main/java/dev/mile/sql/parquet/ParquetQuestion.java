package dev.mile.sql.parquet;

import dev.mile.calendar.DateRange;
import dev.mile.engine.TotalColumn;
import dev.mile.engine.TotalsRequest;
import dev.mile.fact.Condition;
import dev.mile.fact.Fact;
import dev.mile.fact.RowExpression;
import dev.mile.fact.RowExpression.Operand;
import dev.mile.fact.ValueType;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import java.util.stream.Stream;

/**
 * A request that columns of files answer: sums and counts of rows or numbers, by texts, under conditions on texts.
 *
 * @param files the footers of the files
 * @param request the request
 * @param placed the days of the date dimension
 * @param date the column that places rows in time
 * @param groups the texts to group by
 * @param totals what is added up, each once
 * @param totalOf by column of the request, its place among the totals; -1 for the rows that are kept
 * @param keep the condition for rows that the fact keeps
 */
public record ParquetQuestion(
        List<ParquetFooter> files,
        TotalsRequest request,
        DateRange placed,
        String date,
        List<TextValue> groups,
        List<Total> totals,
        List<Integer> totalOf,
        Optional<TextCondition> keep) {
    /**
     * Something that is added up.
     *
     * @param number the column of numbers; empty for rows
     * @param where the condition for rows that count
     */
    record Total(Optional<String> number, Optional<TextCondition> where) {}

    /**
     * Returns the question of a request; empty if it asks for more than that.
     *
     * @param files the footers of the files of the fact; none where they are not known one by one
     * @param filter the filter of the fact, its names looked up
     * @param texts finds the text that a column holds; empty where it holds something else
     */
    public static Optional<ParquetQuestion> of(
            List<ParquetFooter> files,
            Fact fact,
            Optional<Condition> filter,
            TotalsRequest request,
            DateRange placed,
            Function<Operand.Field, Optional<TextValue>> texts) {
        if (files.isEmpty() || !placed.encloses(request.days())) {
            return Optional.empty();
        }
        List<TextValue> groups =
                request.groups().stream().map(texts).flatMap(Optional::stream).toList();
        Optional<TextCondition> keep = filter.flatMap(condition -> TextCondition.of(condition, texts));
        if (groups.size() < request.groups().size() || keep.isPresent() != filter.isPresent()) {
            return Optional.empty();
        }
        List<Total> totals = new ArrayList<>();
        List<Integer> totalOf = new ArrayList<>();
        for (TotalColumn column : request.columns()) {
            Optional<Total> total = total(column, texts);
            if (total.isEmpty()) {
                return Optional.empty();
            }
            boolean isOfAllRows =
                    total.get().number().isEmpty() && total.get().where().isEmpty();
            if (!isOfAllRows && !totals.contains(total.get())) {
                totals.add(total.get());
            }
            totalOf.add(totals.indexOf(total.get()));
        }
        return Optional.of(new ParquetQuestion(
                files, request, placed, fact.column(request.role()), groups, totals, totalOf, keep));
    }

    private static Optional<Total> total(TotalColumn column, Function<Operand.Field, Optional<TextValue>> texts) {
        Optional<TextCondition> where = column.where().flatMap(condition -> TextCondition.of(condition, texts));
        Optional<String> number = column.value().flatMap(ParquetQuestion::number);
        boolean isKnown = where.isPresent() == column.where().isPresent()
                && switch (column.kind()) {
                    case ROWS -> column.value().isEmpty();
                    case COUNT, SUM -> number.isPresent();
                    default -> false;
                };
        return isKnown ? Optional.of(new Total(number, where)) : Optional.empty();
    }

    /** Returns the column of numbers of the fact itself that a value is; empty if it is something else. */
    private static Optional<String> number(RowExpression value) {
        return value instanceof RowExpression.Value plain
                        && plain.operand() instanceof Operand.Field field
                        && field.path().isEmpty()
                        && field.named().isEmpty()
                        && field.type() == ValueType.NUMBER
                ? Optional.of(field.column())
                : Optional.empty();
    }

    /** Returns the conditions that are asked, each once. */
    List<TextCondition> conditions() {
        return Stream.concat(keep.stream(), totals.stream().flatMap(total -> total.where().stream()))
                .distinct()
                .toList();
    }

    /** Returns the columns of texts that are read, each once. */
    List<String> textColumns() {
        Set<String> columns = new LinkedHashSet<>();
        Stream.concat(groups.stream(), conditions().stream().flatMap(condition -> condition.values().stream()))
                .forEach(value -> columns.add(value.column()));
        return List.copyOf(columns);
    }

    /** Returns the columns of numbers that are read, each once. */
    List<String> numberColumns() {
        return totals.stream()
                .flatMap(total -> total.number().stream())
                .distinct()
                .toList();
    }
}
