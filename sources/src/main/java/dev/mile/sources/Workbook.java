package dev.mile.sources;

import com.fasterxml.aalto.stax.InputFactoryImpl;
import dev.mile.DataException;
import dev.mile.MileException;
import dev.mile.ModelException;
import dev.mile.engine.FileFormat;
import dev.mile.internal.Messages;
import java.io.Closeable;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import javax.xml.stream.XMLInputFactory;
import javax.xml.stream.XMLStreamException;
import javax.xml.stream.XMLStreamReader;
import org.apache.poi.openxml4j.exceptions.OpenXML4JException;
import org.apache.poi.openxml4j.opc.OPCPackage;
import org.apache.poi.openxml4j.opc.PackageAccess;
import org.apache.poi.poifs.filesystem.FileMagic;
import org.apache.poi.poifs.filesystem.POIFSFileSystem;
import org.apache.poi.xssf.eventusermodel.ReadOnlySharedStringsTable;
import org.apache.poi.xssf.eventusermodel.XSSFReader;
import org.apache.xmlbeans.XmlException;
import org.openxmlformats.schemas.spreadsheetml.x2006.main.CTSheet;
import org.openxmlformats.schemas.spreadsheetml.x2006.main.CTWorkbook;
import org.openxmlformats.schemas.spreadsheetml.x2006.main.STSheetState;
import org.openxmlformats.schemas.spreadsheetml.x2006.main.WorkbookDocument;
import org.xml.sax.SAXException;

/**
 * Reads a sheet of a workbook (Office Open XML, ISO/IEC 29500), a row at a time: only the texts that cells share are held in memory.
 * Hidden rows and columns are read like all others.
 */
final class Workbook implements Closeable {
    static {
        PoiLog.prepare();
    }

    private static final String ENCRYPTED = "EncryptedPackage";

    private final OPCPackage parts;
    private final XSSFReader reader;
    private final CTWorkbook contents;

    private Workbook(OPCPackage parts) throws IOException, OpenXML4JException, XmlException {
        this.parts = parts;
        reader = new XSSFReader(parts);
        try (InputStream data = reader.getWorkbookData()) {
            contents = WorkbookDocument.Factory.parse(data).getWorkbook();
        }
    }

    static void read(Path file, FileFormat format, RowSink sink) {
        try (Workbook workbook = open(file)) {
            CTSheet sheet = workbook.sheet(file, format);
            TableRows table = new TableRows(file, format, sink);
            SheetRows rows = workbook.rows(sheet, file, format, table, sink);
            try (InputStream data = workbook.part(sheet, file)) {
                rows.read(xml(data));
            }
            table.end();
        } catch (IOException | XMLStreamException e) {
            throw damaged(file, e);
        }
    }

    /** Returns the names of the sheets that can be seen. */
    static List<String> sheets(Path file) {
        try (Workbook workbook = open(file)) {
            return workbook.contents.getSheets().getSheetList().stream()
                    .filter(sheet -> sheet.getState() == STSheetState.VISIBLE)
                    .map(CTSheet::getName)
                    .toList();
        }
    }

    private static XMLStreamReader xml(InputStream data) throws XMLStreamException {
        XMLInputFactory factory = new InputFactoryImpl();
        factory.setProperty(XMLInputFactory.IS_SUPPORTING_EXTERNAL_ENTITIES, false);
        return factory.createXMLStreamReader(data);
    }

    /** Opens a package of parts: files with a password and old binary workbooks are refused. */
    private static Workbook open(Path file) {
        if (!Files.exists(file)) {
            throw DataException.of("the file %s is not there; check the path", file);
        }
        try {
            if (FileMagic.valueOf(file.toFile()) == FileMagic.OLE2) {
                throw old(file);
            }
            return new Workbook(OPCPackage.open(file.toFile(), PackageAccess.READ));
        } catch (MileException e) {
            throw e;
        } catch (IOException | OpenXML4JException | XmlException | RuntimeException e) {
            throw damaged(file, e);
        }
    }

    private static MileException old(Path file) throws IOException {
        try (POIFSFileSystem old = new POIFSFileSystem(file.toFile(), true)) {
            return DataException.of(
                    old.getRoot().hasEntryCaseInsensitive(ENCRYPTED)
                            ? "the file %s is password-protected; save it without a password"
                            : "the file %s is a workbook in the old binary format; save it as .xlsx",
                    file.getFileName());
        }
    }

    private static MileException damaged(Path file, Exception e) {
        // the library's own slips say nothing to people
        String message = e instanceof NullPointerException
                ? "a part of it is missing"
                : String.valueOf(e.getMessage()).strip().replace("\nMessage: ", ": ");
        int end = message.indexOf('\n');
        return DataException.of(
                        "the file %s is damaged, or no .xlsx workbook: %s; open it in a spreadsheet program and save it again",
                        file.getFileName(), end < 0 ? message : message.substring(0, end))
                .withCause(e);
    }

    private CTSheet sheet(Path file, FileFormat format) {
        List<CTSheet> sheets = contents.getSheets().getSheetList();
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

    private SheetRows rows(CTSheet sheet, Path file, FileFormat format, TableRows table, RowSink sink) {
        try (InputStream data = part(sheet, file)) {
            return new SheetRows(
                    new ReadOnlySharedStringsTable(parts, false),
                    reader.getStylesTable(),
                    contents.isSetWorkbookPr() && contents.getWorkbookPr().getDate1904(),
                    MergedCells.of(data),
                    file.getFileName() + ", " + sheet.getName(),
                    format.header(),
                    table,
                    sink);
        } catch (MileException e) {
            throw e;
        } catch (IOException | OpenXML4JException | SAXException | RuntimeException e) {
            throw damaged(file, e);
        }
    }

    private InputStream part(CTSheet sheet, Path file) {
        try {
            return reader.getSheet(sheet.getId());
        } catch (IOException | OpenXML4JException | RuntimeException e) {
            throw damaged(file, e);
        }
    }

    /** Changes nothing: the parts are only read. */
    @Override
    public void close() {
        parts.revert();
    }
}
