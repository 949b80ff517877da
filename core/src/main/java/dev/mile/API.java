package dev.mile;

import java.lang.annotation.Documented;
import java.lang.annotation.ElementType;
import java.lang.annotation.Retention;
import java.lang.annotation.RetentionPolicy;
import java.lang.annotation.Target;

/** Says of an exported package, or of a type in it, how firm it is; docs/stability.md says what follows from that. */
@Documented
@Retention(RetentionPolicy.CLASS)
@Target({ElementType.PACKAGE, ElementType.TYPE})
public @interface API {
    /** How firm something is. */
    enum Status {
        /** Programs may rely on it: what breaks them comes with a new major version only. */
        STABLE,
        /** It may change with any new minor version, which says how. */
        EXPERIMENTAL
    }

    /** {@return how firm it is} */
    Status status();

    /** {@return the version from which on this is so} */
    String since();
}
