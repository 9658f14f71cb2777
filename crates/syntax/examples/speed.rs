use sieve_syntax::{language::Language,text::Text};
use std::time::Instant;
fn main(){
 let mut files=vec![]; let mut stack=vec![std::path::PathBuf::from(std::env::args().nth(1).unwrap())];
 while let Some(d)=stack.pop(){ for e in std::fs::read_dir(d).unwrap(){let p=e.unwrap().path(); if p.is_dir(){ if !p.ends_with("site-packages"){stack.push(p)}} else if p.extension().is_some_and(|e|e=="py"){ files.push(std::fs::read(p).unwrap()); }}}
 let n:usize=files.iter().map(|f|f.len()).sum();
 for _ in 0..4 {
 let t=Instant::now(); let texts:Vec<Text>=files.iter().filter_map(|f|Language::Python.decode(f.clone()).ok()).collect(); let d=t.elapsed();
 let t=Instant::now(); let mut nodes=0; let mut toks=0; for x in &texts { let tr=Language::Python.parse(x); nodes+=tr.nodes().len(); toks+=tr.tokens().len(); } let p=t.elapsed();
 println!("decode {:.0} MB/s parse {:.0} MB/s nodes {} tokens {} bytes {}", n as f64/1e6/d.as_secs_f64(), n as f64/1e6/p.as_secs_f64(), nodes,toks,n);
 }
}
