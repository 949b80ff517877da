package dev.mile.cli;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;

class WarmUpTest {
    /** In the background, a mistake in it would be unseen, and only cost time. */
    @Test
    void aReportIsWorkedOutAhead() {
        assertThat(WarmUp.report(WarmUp.project())).contains("FY2027", "FY2027 P01");
    }
}
