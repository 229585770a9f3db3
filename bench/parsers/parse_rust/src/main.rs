// Prints what the syn crate finds in the files named on standard input, one a line, as scan_rust.cpp does; "X path" for
// files that it refuses. Macros and what they are given are left out, but for embedded files.
use proc_macro2::{TokenStream, TokenTree};
use std::io::BufRead;
use syn::visit::{self, Visit};

#[derive(Default)]
struct Finder {
    within: Vec<String>,
    modules: Vec<String>,
    imports: Vec<String>,
    paths: Vec<String>,
    most: Option<usize>,
}

fn plain(name: String) -> String {
    name.strip_prefix("r#").map(str::to_string).unwrap_or(name)
}

fn visibility(vis: &syn::Visibility) -> &'static str {
    match vis {
        syn::Visibility::Inherited => "own",
        syn::Visibility::Public(_) => "everywhere",
        syn::Visibility::Crate(_) => "crate",
        syn::Visibility::Restricted(one) => match one.path.get_ident() {
            Some(word) if word == "crate" => "crate",
            Some(word) if word == "super" => "parent",
            Some(word) if word == "self" => "own",
            _ => "path",
        },
    }
}

fn leaves(tree: &syn::UseTree, before: &[String], vis: &str, out: &mut Vec<String>) {
    let mut path = before.to_vec();
    match tree {
        syn::UseTree::Path(one) => {
            path.push(plain(one.ident.to_string()));
            leaves(&one.tree, &path, vis, out);
        }
        syn::UseTree::Name(one) => {
            let name = plain(one.ident.to_string());
            path.push(name.clone());
            let bound = if name == "self" && path.len() > 1 { path[path.len() - 2].clone() } else { name };
            out.push(format!("U {} {} {}", vis, path.join("::"), bound));
        }
        syn::UseTree::Rename(one) => {
            path.push(plain(one.ident.to_string()));
            let bound = plain(one.rename.to_string());
            out.push(format!("U {} {} {}", vis, path.join("::"), if bound == "_" { "-".into() } else { bound }));
        }
        syn::UseTree::Glob(_) => out.push(format!("U {} {} *", vis, path.join("::"))),
        syn::UseTree::Group(group) => {
            for one in &group.items {
                leaves(one, before, vis, out);
            }
        }
    }
}

impl<'a> Visit<'a> for Finder {
    fn visit_item_mod(&mut self, item: &'a syn::ItemMod) {
        let name = plain(item.ident.to_string());
        let mut path = String::from("-");
        for attribute in &item.attrs {
            if let Ok(syn::Meta::NameValue(pair)) = attribute.parse_meta() {
                if let (true, syn::Lit::Str(text)) = (pair.path.is_ident("path"), &pair.lit) {
                    path = text.value();
                }
            }
        }
        let kind = if item.content.is_some() { "inline" } else { "file" };
        let line = format!("M {} {} {} {} {}", self.within.join("::"), name, kind, visibility(&item.vis), path);
        self.modules.push(line);
        self.within.push(name);
        visit::visit_item_mod(self, item);
        self.within.pop();
    }
    // Up to the first arguments; of "<T as a::B>::c" what names the trait.
    fn visit_path(&mut self, path: &'a syn::Path) {
        let mut names = Vec::new();
        let most = self.most.take().unwrap_or(usize::MAX);
        for one in path.segments.iter().take(most) {
            names.push(plain(one.ident.to_string()));
            if !one.arguments.is_empty() {
                break;
            }
        }
        if names.len() > 1 {
            self.paths.push(format!("P {}", names.join("::")));
        }
        visit::visit_path(self, path);
    }
    fn visit_expr_path(&mut self, path: &'a syn::ExprPath) {
        self.most = path.qself.as_ref().map(|of| of.position);
        self.visit_path(&path.path);
        if let Some(of) = &path.qself {
            self.visit_type(&of.ty);
        }
    }
    fn visit_type_path(&mut self, path: &'a syn::TypePath) {
        self.most = path.qself.as_ref().map(|of| of.position);
        self.visit_path(&path.path);
        if let Some(of) = &path.qself {
            self.visit_type(&of.ty);
        }
    }
    fn visit_pat_path(&mut self, path: &'a syn::PatPath) {
        self.most = path.qself.as_ref().map(|of| of.position);
        self.visit_path(&path.path);
        if let Some(of) = &path.qself {
            self.visit_type(&of.ty);
        }
    }
    // What "pub(in …)" names is read apart.
    fn visit_visibility(&mut self, _: &'a syn::Visibility) {}
    fn visit_item_use(&mut self, item: &'a syn::ItemUse) {
        leaves(&item.tree, &[], visibility(&item.vis), &mut self.imports);
    }
}

// include_str!("…"), include_bytes!("…"), include!("…")
fn embeds(stream: TokenStream, out: &mut Vec<String>) {
    let tokens: Vec<TokenTree> = stream.into_iter().collect();
    for (i, token) in tokens.iter().enumerate() {
        if let TokenTree::Group(group) = token {
            let called = i > 1 && matches!(&tokens[i - 1], TokenTree::Punct(mark) if mark.as_char() == '!');
            let name = if called { tokens[i - 2].to_string() } else { String::new() };
            let inner: Vec<TokenTree> = group.stream().into_iter().collect();
            if matches!(name.as_str(), "include_str" | "include_bytes" | "include") {
                if let Some(TokenTree::Literal(literal)) = inner.first() {
                    if let Ok(text) = syn::parse_str::<syn::LitStr>(&literal.to_string()) {
                        out.push(format!("E {}", text.value()));
                    }
                }
            }
            embeds(group.stream(), out);
        }
    }
}

fn main() {
    for path in std::io::stdin().lock().lines().map_while(Result::ok) {
        let text = std::fs::read_to_string(&path);
        let parsed = text.ok().and_then(|text| {
            let file = syn::parse_file(&text).ok()?;
            Some((file, text.trim_start_matches('\u{feff}').parse::<TokenStream>().ok()?))
        });
        let Some((file, tokens)) = parsed else {
            println!("X {path}");
            continue;
        };
        let mut found = Finder::default();
        found.visit_file(&file);
        println!("F {path}");
        for line in found.modules.iter().chain(&found.imports) {
            println!("{line}");
        }
        let mut files = Vec::new();
        embeds(tokens, &mut files);
        for line in files.iter().chain(&found.paths) {
            println!("{line}");
        }
    }
}
