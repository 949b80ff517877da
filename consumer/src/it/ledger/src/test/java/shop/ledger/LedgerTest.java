package shop.ledger;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.PrintStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class LedgerTest {
    @Test
    void theProgramPrintsItsReportAndNobodyComplains(@TempDir Path folder) throws IOException {
        PrintStream out = System.out;
        PrintStream err = System.err;
        ByteArrayOutputStream printed = new ByteArrayOutputStream();
        ByteArrayOutputStream complaints = new ByteArrayOutputStream();
        System.setOut(new PrintStream(printed, true, StandardCharsets.UTF_8));
        System.setErr(new PrintStream(complaints, true, StandardCharsets.UTF_8));
        try {
            Ledger.main(new String[] {folder.toString()});
        } finally {
            System.setOut(out);
            System.setErr(err);
        }
        assertEquals(
                "month,net\n,19.75\nFY2027 P01,12.50\nFY2027 P02,7.25\n7.25\n{\"month\":\"FY2027 P01\",\"net\":12.50}\n",
                printed.toString(StandardCharsets.UTF_8).replace("\r\n", "\n"));
        assertEquals("", complaints.toString(StandardCharsets.UTF_8));
        assertTrue(Files.size(folder.resolve("months.xlsx")) > 1000);
        assertEquals(Boolean.getBoolean("modules.expected"), Ledger.class.getModule().isNamed());
    }
}
