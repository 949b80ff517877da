/** A program of modules. */
module shop.ledger {
    requires dev.mile.model;
    requires dev.mile.sql.files;
    requires dev.mile.render.text;
    requires dev.mile.render.excel;
    requires dev.mile.jackson;

    opens shop.ledger;
}
