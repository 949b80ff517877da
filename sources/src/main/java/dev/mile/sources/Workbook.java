package dev.mile.sources;

import dev.mile.DataException;
import dev.mile.MileException;
import dev.mile.ModelException;
import dev.mile.engine.FileFormat;
import dev.mile.internal.Messages;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import javax.xml.parsers.ParserConfigurationException;
import org.apache.poi.EncryptedDocumentException;
import org.apache.poi.UnsupportedFileFormatException;
import org.apache.poi.openxml4j.exceptions.OpenXML4JException;
import org.apache.poi.openxml4j.exceptions.OpenXML4JRuntimeException;
import org.apache.poi.openxml4j.opc.OPCPackage;
import org.apache.poi.openxml4j.opc.PackageAccess;
import org.apache.poi.poifs.filesystem.FileMagic;
import org.apache.poi.poifs.filesystem.POIFSFileSystem;
import org.apache.poi.util.XMLHelper;
import org.apache.poi.xssf.eventusermodel.ReadOnlySharedStringsTable;
import org.apache.poi.xssf.eventusermodel.XSSFReader;
import org.apache.xmlbeans.XmlException;
import org.openxmlformats.schemas.spreadsheetml.x2006.main.CTSheet;
import org.openxmlformats.schemas.spreadsheetml.x2006.main.CTWorkbook;
import org.openxmlformats.schemas.spreadsheetml.x2006.main.STSheetState;
import org.openxmlformats.schemas.spreadsheetml.x2006.main.WorkbookDocument;
import org.xml.sax.InputSource;
import org.xml.sax.SAXException;
import org.xml.sax.XMLReader;

/**
 * Reads a sheet of a workbook (Office Open XML, ISO/IEC 29500), a row at a time: only the texts that cells share are held in memory.
 * Hidden rows and columns are read like all others.
 */
final class Workbook {
    private static final String ENCRYPTED = "EncryptedPackage";

    private Workbook() {}

    static void read(Path file, FileFormat format, RowSink sink) {
        try {
            checkKind(file);
            try (OPCPackage parts = OPCPackage.open(file.toFile(), PackageAccess.READ)) {
                read(parts, file, format, sink);
            }
        } catch (SheetRows.Stopped e) {
            throw e.failure();
        } catch (IOException
                | OpenXML4JException
                | OpenXML4JRuntimeException
                | SAXException
                | XmlException
                | ParserConfigurationException
                | UnsupportedFileFormatException
                | EncryptedDocumentException e) {
            throw damaged(file, e);
        }
    }

    private static MileException damaged(Path file, Exception e) {
        return DataException.of(
                        "the file %s is damaged, or no .xlsx workbook: %s; open it in a spreadsheet program and save it again",
                        file.getFileName(), firstLine(e))
                .withCause(e);
    }

    private static String firstLine(Exception e) {
        String message = String.valueOf(e.getMessage()).strip();
        int end = message.indexOf('\n');
        return end < 0 ? message : message.substring(0, end);
    }

    /** Checks that it is a package of parts: what is behind a password, and the old binary workbook, is not. */
    private static void checkKind(Path file) throws IOException {
        if (!Files.isReadable(file)) {
            throw DataException.of("the file %s cannot be read; check that it is there and may be read", file);
        }
        if (FileMagic.valueOf(file.toFile()) != FileMagic.OLE2) {
            return;
        }
        try (POIFSFileSystem old = new POIFSFileSystem(file.toFile(), true)) {
            throw DataException.of(
                    old.getRoot().hasEntryCaseInsensitive(ENCRYPTED)
                            ? "the file %s is behind a password; save it without one"
                            : "the file %s is a workbook of the old binary format; save it as .xlsx",
                    file.getFileName());
        }
    }

    private static void read(OPCPackage parts, Path file, FileFormat format, RowSink sink)
            throws IOException, OpenXML4JException, SAXException, XmlException, ParserConfigurationException {
        XSSFReader reader = new XSSFReader(parts);
        CTWorkbook workbook;
        try (InputStream data = reader.getWorkbookData()) {
            workbook = WorkbookDocument.Factory.parse(data).getWorkbook();
        }
        CTSheet sheet = sheet(workbook, file, format);
        boolean from1904 =
                workbook.isSetWorkbookPr() && workbook.getWorkbookPr().getDate1904();
        MergedCells merged;
        try (InputStream data = reader.getSheet(sheet.getId())) {
            merged = MergedCells.of(data);
        }
        TableRows table = new TableRows(file, format, sink);
        SheetRows rows = new SheetRows(
                new ReadOnlySharedStringsTable(parts, false),
                reader.getStylesTable(),
                from1904,
                merged,
                file.getFileName() + ", " + sheet.getName(),
                format.header(),
                table,
                sink);
        XMLReader xml = XMLHelper.newXMLReader();
        xml.setContentHandler(rows);
        try (InputStream data = reader.getSheet(sheet.getId())) {
            xml.parse(new InputSource(data));
        }
        table.end();
    }

    private static CTSheet sheet(CTWorkbook workbook, Path file, FileFormat format) {
        List<CTSheet> sheets = workbook.getSheets().getSheetList();
        if (format.sheet().isEmpty()) {
            return sheets.stream()
                    .filter(sheet -> sheet.getState() == STSheetState.VISIBLE)
                    .findFirst()
                    .orElseThrow(
                            () -> DataException.of("the file %s has no sheet that can be seen", file.getFileName()));
        }
        Map<String, CTSheet> byName = new LinkedHashMap<>();
        sheets.forEach(sheet -> byName.put(sheet.getName(), sheet));
        String name = format.sheet().get();
        CTSheet found = byName.get(name);
        if (found == null) {
            throw ModelException.of(
                    "`sheet` is '%s', which %s lacks%s; its sheets are %s",
                    name,
                    file.getFileName(),
                    Messages.didYouMean(name, byName.keySet()),
                    String.join(", ", byName.keySet()));
        }
        return found;
    }
}
