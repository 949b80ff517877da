package dev.mile.report;

import static java.util.Objects.requireNonNull;

import dev.mile.fact.Fact;
import java.time.LocalDate;
import java.util.List;

/** Where the date dimension begins or ends: at a date, or at the first or last date in facts. */
public sealed interface DateBound {
    /** A date. */
    record At(LocalDate date) implements DateBound {
        public At {
            requireNonNull(date, "date is null");
        }
    }

    /**
     * The dates in facts.
     *
     * @param sources facts, or roles of facts ({@code sales.ordered}); empty for all facts that are not plans
     */
    record FromFacts(List<String> sources) implements DateBound {
        public FromFacts {
            sources = List.copyOf(sources);
        }

        /**
         * {@return whether the dates of the fact in the role count}
         *
         * @param fact the fact
         * @param role the date role
         */
        public boolean includes(Fact fact, String role) {
            return sources.isEmpty()
                    ? !fact.plan()
                    : sources.contains(fact.name()) || sources.contains(fact.name() + "." + role);
        }
    }

    /**
     * {@return the bound at a date}
     *
     * @param date the date
     */
    static DateBound at(LocalDate date) {
        return new At(date);
    }

    /** {@return the bound in the dates of all facts that are not plans} */
    static DateBound fromFacts() {
        return new FromFacts(List.of());
    }

    /**
     * {@return the bound in the dates of some facts, or roles of facts ({@code sales.ordered})}
     *
     * @param sources the names of facts, or of date roles such as sales.ordered
     */
    static DateBound fromFacts(List<String> sources) {
        return new FromFacts(sources);
    }
}
