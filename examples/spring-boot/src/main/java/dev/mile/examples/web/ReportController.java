package dev.mile.examples.web;

import dev.mile.ErrorCode;
import dev.mile.MileException;
import dev.mile.StoppedException;
import dev.mile.examples.ReportService;
import dev.mile.report.Explanation;
import dev.mile.report.Finding;
import dev.mile.report.Grid;
import java.util.List;
import org.springframework.http.HttpStatus;
import org.springframework.http.ProblemDetail;
import org.springframework.web.bind.annotation.ExceptionHandler;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** What the service answers. */
@RestController
public class ReportController {
    private final ReportService reports;

    ReportController(ReportService reports) {
        this.reports = reports;
    }

    /** The names of the reports. */
    @GetMapping("/reports")
    List<String> names() {
        return reports.names();
    }

    /** A report whole: columns, rows with their kind, notes. */
    @GetMapping("/reports/{name}")
    Grid report(@PathVariable("name") String name) {
        return reports.report(name);
    }

    /** The leaves of a report as objects, as a chart or a table takes them. */
    @GetMapping("/reports/{name}/rows")
    List<Grid.Cells> rows(@PathVariable("name") String name) {
        return reports.report(name).leaves().toList();
    }

    /** The way to a figure: {@code /explain?measure=growth&at=FY2026 P03}. */
    @GetMapping("/explain")
    Explanation explain(@RequestParam("measure") String measure, @RequestParam("at") String at) {
        return reports.explain(measure, at);
    }

    /** What a check finds in the model and its data. */
    @GetMapping("/findings")
    List<Finding> findings() {
        return reports.check();
    }

    /** Reads the model and its files anew. */
    @PostMapping("/reload")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void reload() {
        reports.reload();
    }

    /** An error as data: what kind it is, and which names it is about. */
    @ExceptionHandler
    ProblemDetail failed(MileException error) {
        HttpStatus status = error.code() == ErrorCode.UNKNOWN_NAME ? HttpStatus.NOT_FOUND : HttpStatus.BAD_REQUEST;
        ProblemDetail problem = ProblemDetail.forStatusAndDetail(status, error.sentence());
        problem.setProperty("code", error.code());
        problem.setProperty("values", error.values());
        return problem;
    }

    @ExceptionHandler
    ProblemDetail tookTooLong(StoppedException error) {
        return ProblemDetail.forStatusAndDetail(HttpStatus.SERVICE_UNAVAILABLE, error.getMessage());
    }
}
