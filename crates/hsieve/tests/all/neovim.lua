-- Drives the language server from Neovim, with its own client. What is seen goes into a file as JSON, step by step.
local folder, server, out = vim.env.FERRY, vim.env.HSIEVE, vim.env.SEEN
local seen = {}

local function check(ok, what)
  if not ok then
    seen.failed = what
    vim.fn.writefile({ vim.fn.json_encode(seen) }, out)
    vim.cmd("cquit 1")
  end
end

local client = vim.lsp.start_client({ name = "hsieve", cmd = { server, "lsp" }, root_dir = folder,
  workspace_folders = { { uri = vim.uri_from_fname(folder), name = "ferry" } } })
check(client, "the client starts")

local function open(name)
  vim.cmd("edit " .. vim.fn.fnameescape(folder .. "/" .. name))
  local buffer = vim.api.nvim_get_current_buf()
  vim.lsp.buf_attach_client(buffer, client)
  return buffer
end

local function diagnostics(buffer)
  local found = {}
  for _, one in ipairs(vim.diagnostic.get(buffer)) do
    table.insert(found, string.format("%d:%d %s", one.lnum + 1, one.col + 1, one.code or one.user_data.lsp.code))
  end
  table.sort(found)
  return found
end

local function until_so(buffer, is_so, what)
  check(vim.wait(30000, function() return is_so(diagnostics(buffer)) end, 20), what)
  return diagnostics(buffer)
end

local function has(list, rule)
  for _, one in ipairs(list) do
    if vim.endswith(one, " " .. rule) then return true end
  end
  return false
end

local function ask(buffer, method, params)
  local answers = vim.lsp.buf_request_sync(buffer, method, params, 30000)
  local answer = answers and answers[client]
  check(answer and not answer.err, method)
  return answer.result
end

local function units()
  return vim.lsp.get_client_by_id(client).offset_encoding
end

local function text(buffer)
  return table.concat(vim.api.nvim_buf_get_lines(buffer, 0, -1, true), "\n") .. "\n"
end

-- Findings.
local board = open("board.py")
seen.board = until_so(board, function(list) return has(list, "unused-import") end, "the findings of board.py")

-- A quick fix.
local position = { line = 0, character = 8 }
local context = { diagnostics = vim.lsp.diagnostic.get_line_diagnostics(board, 0) }
local document = vim.lsp.util.make_text_document_params(board)
local actions = ask(board, "textDocument/codeAction",
  { textDocument = document, range = { start = position, ["end"] = position }, context = context })
seen.title = actions[1].title
vim.lsp.util.apply_workspace_edit(actions[1].edit, units())
seen.fixed = text(board)
until_so(board, function(list) return not has(list, "unused-import") end, "the fix removes its finding")

-- Unsaved text of one file changes what is said of another one.
local tides = open("tides.py")
until_so(tides, function() return true end, "tides.py")
vim.api.nvim_buf_set_lines(tides, 0, 1, true, { "def low(day, quay):" })
seen.across = until_so(board, function(list) return has(list, "argument-count") end, "the caller is told")
vim.api.nvim_buf_set_lines(tides, 0, 1, true, { "def low(day):" })
until_so(board, function(list) return not has(list, "argument-count") end, "the caller is right again")

-- Layout.
local edits = ask(board, "textDocument/formatting", { textDocument = document, options = { tabSize = 4, insertSpaces = true } })
vim.lsp.util.apply_text_edits(edits, board, units())
seen.formatted = text(board)

-- Renaming, in all files.
local renamed = ask(tides, "textDocument/rename",
  { textDocument = vim.lsp.util.make_text_document_params(tides), position = { line = 0, character = 5 }, newName = "ebb" })
vim.lsp.util.apply_workspace_edit(renamed, units())
vim.cmd("silent wall")
seen.renamed = true

-- Settings that change on the disk.
vim.fn.writefile({ "[rules]", 'magic-number = "off"', 'missing-doc = "off"' }, folder .. "/sieve.toml")
vim.api.nvim_buf_set_lines(board, -1, -1, true, { "y = 2" })
vim.api.nvim_buf_call(board, function() vim.cmd("silent write") end)
seen.quiet = until_so(board, function(list) return not has(list, "missing-doc") end, "the settings hold")

vim.fn.writefile({ vim.fn.json_encode(seen) }, out)
vim.lsp.stop_client(client)
vim.cmd("qall!")
