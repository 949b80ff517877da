package dev.mile.render.excel;

import dev.mile.internal.PrivateFolder;
import java.io.File;
import java.io.FileOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.io.Writer;
import java.util.zip.Deflater;
import org.apache.commons.compress.archivers.zip.ZipArchiveOutputStream;
import org.apache.poi.xssf.streaming.SXSSFWorkbook;
import org.apache.poi.xssf.streaming.SheetDataWriter;

/** A workbook whose rows are put aside where only this process may read, not in a folder that all users of the machine share. */
final class StreamedWorkbook extends SXSSFWorkbook {
    StreamedWorkbook(int rowsInMemory) {
        super(rowsInMemory);
    }

    @Override
    protected SheetDataWriter createSheetDataWriter() throws IOException {
        return new PrivateRows();
    }

    /** The best speed: smaller files by a fifth take three times as long. */
    @Override
    protected ZipArchiveOutputStream createArchiveOutputStream(OutputStream out) {
        ZipArchiveOutputStream archive = super.createArchiveOutputStream(out);
        archive.setLevel(Deflater.BEST_SPEED);
        return archive;
    }

    @Override
    public void write(OutputStream out) throws IOException {
        writeAvoidingTempFiles(out);
    }

    @SuppressWarnings("deprecation") // the library's own way will be another in its next release
    private static final class PrivateRows extends SheetDataWriter {
        PrivateRows() throws IOException {}

        @Override
        public File createTempFile() throws IOException {
            return PrivateFolder.newFile(".xml").toFile();
        }

        @Override
        public Writer createWriter(File rows) throws IOException {
            return new Utf8Writer(new FileOutputStream(rows));
        }
    }
}
