// Starts `hsieve lsp` and connects the editor with it. All that is shown comes from the server.

import { ExtensionContext, commands, window, workspace } from "vscode";
import { LanguageClient, LanguageClientOptions, ServerOptions } from "vscode-languageclient/node";

let client: LanguageClient | undefined;

/** The languages that the server reads, and its settings. */
const documents = [
  ...["python", "javascript", "javascriptreact", "typescript", "typescriptreact", "shellscript", "json", "jsonc", "yaml", "toml", "html", "css", "go", "rust", "java", "csharp"].map((language) => ({
    scheme: "file",
    language,
  })),
  { scheme: "file", pattern: "**/sieve.toml" },
  { scheme: "file", pattern: "**/*.{tf,tofu,tfvars,hcl}" },
];

/** Starts the server, and again whenever it is asked for. */
export async function activate(context: ExtensionContext): Promise<void> {
  context.subscriptions.push(
    commands.registerCommand("hsieve.siftProject", () => client?.sendRequest("workspace/executeCommand", { command: "sieve.siftProject" })),
    commands.registerCommand("hsieve.restart", restart),
  );
  await restart();
}

/** Stops the server. */
export async function deactivate(): Promise<void> {
  await client?.stop();
}

async function restart(): Promise<void> {
  await client?.stop();
  const settings = workspace.getConfiguration("hsieve");
  const command = settings.get<string>("path", "hsieve");
  const server: ServerOptions = { command, args: ["lsp"] };
  const options: LanguageClientOptions = {
    documentSelector: documents,
    initializationOptions: { project: settings.get("project", true), held: settings.get("held", false) },
    synchronize: { configurationSection: "hsieve" },
  };
  client = new LanguageClient("hsieve", "Honest Sieve", server, options);
  try {
    await client.start();
  } catch (error) {
    client = undefined;
    window.showErrorMessage(`${command} could not be started: ${error instanceof Error ? error.message : error}`);
  }
}
