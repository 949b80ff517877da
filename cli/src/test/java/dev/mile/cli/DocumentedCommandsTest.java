package dev.mile.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.io.OutputStream;
import java.io.PrintWriter;
import java.io.StringWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.apache.poi.ss.usermodel.CellStyle;
import org.apache.poi.ss.usermodel.FormulaError;
import org.apache.poi.xssf.usermodel.XSSFCell;
import org.apache.poi.xssf.usermodel.XSSFRow;
import org.apache.poi.xssf.usermodel.XSSFSheet;
import org.apache.poi.xssf.usermodel.XSSFWorkbook;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Runs the commands of the documents, on the files that they show, and compares what is printed. */
class DocumentedCommandsTest {
    private static final Pattern BLOCK = Pattern.compile("```(\\w+)(?: (\\S+))?\\n(.*?)```", Pattern.DOTALL);

    @TempDir
    Path folder;

    @ParameterizedTest
    @ValueSource(strings = {"reference.md", "sources.md"})
    void commandsPrintWhatTheDocumentShows(String page) throws IOException {
        Matcher block = BLOCK.matcher(Files.readString(Path.of("../docs", page)));
        List<String> shown = new ArrayList<>();
        List<String> printed = new ArrayList<>();
        while (block.find()) {
            if (block.group(2) != null && block.group(2).endsWith(".xlsx")) {
                workbook(folder.resolve(block.group(2)), block.group(3));
            } else if (block.group(2) != null) {
                Files.writeString(folder.resolve(block.group(2)), block.group(3));
            } else if (block.group(1).equals("console")) {
                for (String line : block.group(3).split("\n")) {
                    shown.add(line);
                    if (line.startsWith("$ ")) {
                        printed.add(line);
                        printed.addAll(run(words(line.substring(2))));
                    }
                }
            }
        }
        assertThat(shown).hasSizeGreaterThan(20);
        assertThat(printed).isEqualTo(shown);
    }

    /** Writes the cells that a document shows: dates and numbers as such, all else as texts. */
    private static void workbook(Path file, String cells) throws IOException {
        try (XSSFWorkbook workbook = new XSSFWorkbook();
                OutputStream out = Files.newOutputStream(file)) {
            CellStyle date = workbook.createCellStyle();
            date.setDataFormat(workbook.createDataFormat().getFormat("dd.mm.yyyy"));
            XSSFSheet sheet = workbook.createSheet("Orders");
            for (String line : cells.split("\n")) {
                XSSFRow row = sheet.createRow(sheet.getPhysicalNumberOfRows());
                for (String value : line.split(",", -1)) {
                    XSSFCell cell = row.createCell(row.getPhysicalNumberOfCells());
                    if (value.matches("\\d{4}-\\d\\d-\\d\\d")) {
                        cell.setCellValue(LocalDate.parse(value));
                        cell.setCellStyle(date);
                    } else if (value.matches("-?[0-9.]+")) {
                        cell.setCellValue(Double.parseDouble(value));
                    } else if (value.startsWith("#")) {
                        cell.setCellErrorValue(FormulaError.forString(value));
                    } else {
                        cell.setCellValue(value);
                    }
                }
            }
            workbook.write(out);
        }
    }

    private static List<String> words(String command) {
        List<String> words = new ArrayList<>();
        Matcher word = Pattern.compile("\"([^\"]*)\"|(\\S+)").matcher(command);
        while (word.find()) {
            words.add(word.group(1) == null ? word.group(2) : word.group(1));
        }
        return words;
    }

    private List<String> run(List<String> words) throws IOException {
        if (words.get(0).equals("grep")) {
            return Files.readAllLines(folder.resolve(words.get(2))).stream()
                    .filter(line -> line.contains(words.get(1)))
                    .toList();
        }
        List<String> arguments = new ArrayList<>(words.subList(1, words.size()));
        int output = arguments.indexOf("-o") + 1;
        if (output > 0) {
            arguments.set(output, folder.resolve(arguments.get(output)).toString());
        }
        if (arguments.get(0).equals("new")) {
            arguments.replaceAll(argument -> Files.exists(folder.resolve(argument))
                    ? folder.resolve(argument).toString()
                    : argument);
        } else {
            arguments.addAll(List.of("-f", folder.resolve("mile.yaml").toString()));
        }
        StringWriter out = new StringWriter();
        StringWriter err = new StringWriter();
        int code = Main.run(new PrintWriter(out), new PrintWriter(err, true), arguments.toArray(String[]::new));
        List<String> lines = new ArrayList<>(
                (out + err.toString().replace(folder + "/", "")).lines().toList());
        if (code != 0) {
            lines.add("exit code " + code);
        }
        return lines;
    }
}
