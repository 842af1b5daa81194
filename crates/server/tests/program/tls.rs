//! Served by TLS from a certificate and a key that the player gives.

use std::io::{BufRead, BufReader, Read, Write};
use std::net::TcpStream;
use std::process::{Command, Stdio};
use std::sync::Arc;

use rustls::pki_types::pem::PemObject;
use rustls::pki_types::{CertificateDer, ServerName};
use rustls::{ClientConfig, ClientConnection, RootCertStore, StreamOwned};

#[test]
fn a_browser_that_knows_the_certificate_is_answered_and_others_turn_away() {
    let folder = tempfile::tempdir().unwrap();
    let path = |name: &str| folder.path().join(name);
    let made = rcgen::generate_simple_self_signed(vec!["127.0.0.1".into(), "localhost".into()]).unwrap();
    std::fs::write(path("cert.pem"), made.cert.pem()).unwrap();
    std::fs::write(path("key.pem"), made.signing_key.serialize_pem()).unwrap();
    let mut command = Command::new(env!("CARGO_BIN_EXE_zinc-kite"));
    command.args(["serve", "--new", "--port", "0", "--db"]).arg(path("mine.db"));
    command.arg("--tls-cert").arg(path("cert.pem")).arg("--tls-key").arg(path("key.pem"));
    let mut child = command.stdout(Stdio::piped()).spawn().unwrap();
    let mut lines = BufReader::new(child.stdout.take().unwrap()).lines();
    let said = lines.find_map(|l| Some(l.unwrap().strip_prefix("Zinc Kite is at https://")?.to_owned()));
    let address = said.expect("it says where it is").split('/').next().unwrap().to_owned();

    let ask = |roots: RootCertStore| -> std::io::Result<String> {
        let provider = Arc::new(rustls::crypto::ring::default_provider());
        let config = ClientConfig::builder_with_provider(provider)
            .with_safe_default_protocol_versions()
            .unwrap()
            .with_root_certificates(roots)
            .with_no_client_auth();
        let connection =
            ClientConnection::new(Arc::new(config), ServerName::try_from("localhost").unwrap()).unwrap();
        let mut stream = StreamOwned::new(connection, TcpStream::connect(&address)?);
        write!(stream, "GET /api/health HTTP/1.1\r\nhost: localhost\r\nconnection: close\r\n\r\n")?;
        let mut answer = Vec::new();
        match stream.read_to_end(&mut answer) {
            Err(e) if answer.is_empty() => Err(e),
            _ => Ok(String::from_utf8_lossy(&answer).into_owned()),
        }
    };
    let mut known = RootCertStore::empty();
    known.add(CertificateDer::from_pem_file(path("cert.pem")).unwrap()).unwrap();
    let answer = ask(known);
    let stranger = ask(RootCertStore::empty());
    child.kill().unwrap();
    child.wait().unwrap();
    let answer = answer.unwrap();
    assert!(answer.starts_with("HTTP/1.1 200"), "{answer}");
    assert!(answer.to_lowercase().contains("strict-transport-security"), "{answer}");
    assert!(stranger.is_err(), "who does not know the certificate turns away");
}
