package dev.mile.sql.cache;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.times;
import static org.mockito.Mockito.verify;
import static org.mockito.Mockito.when;

import dev.mile.DataException;
import dev.mile.StoppedException;
import dev.mile.sql.query.Cursor;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.ResultSet;
import java.sql.SQLException;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** What becomes of a stored file that cannot be read. */
class CachedTotalsCursorTest {
    @Test
    void aDamagedFileIsDeletedAndOneWhoseReaderWasInterruptedIsNot(@TempDir Path folder) throws Exception {
        Path file = Files.createFile(folder.resolve("t.totals"));
        ResultSet row = mock(ResultSet.class);
        when(row.next()).thenThrow(new SQLException("cannot go on"));
        Cursor cursor = mock(Cursor.class);
        when(cursor.rows()).thenReturn(row);

        Thread.currentThread().interrupt();
        assertThatThrownBy(() -> new CachedTotalsCursor(file, cursor, 1, 1)).isInstanceOf(StoppedException.class);
        assertThat(Thread.interrupted()).isTrue();
        assertThat(file).exists();

        assertThatThrownBy(() -> new CachedTotalsCursor(file, cursor, 1, 1))
                .isInstanceOf(DataException.class)
                .hasMessageContaining("were damaged, and are deleted");
        assertThat(file).doesNotExist();
        verify(cursor, times(2)).close();
    }
}
