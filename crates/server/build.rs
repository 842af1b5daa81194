//! The front end is embedded at compile time: build again when it changes.

fn main() {
    println!("cargo:rerun-if-changed=../../web/dist");
}
