//! The binary `zinc-kite`.

fn main() -> std::process::ExitCode {
    match zinc_kite::cli::run() {
        Ok(()) => std::process::ExitCode::SUCCESS,
        Err(error) => {
            eprintln!("zinc-kite: {error:#}");
            std::process::ExitCode::FAILURE
        }
    }
}
