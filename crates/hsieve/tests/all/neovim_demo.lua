-- Opens files of the demo in Neovim, and writes the diagnostics that its own client got, as JSON.
local folder, server, out = vim.env.FERRY, vim.env.HSIEVE, vim.env.SEEN
local client = vim.lsp.start_client({ name = "hsieve", cmd = { server, "lsp" }, root_dir = folder,
  workspace_folders = { { uri = vim.uri_from_fname(folder), name = "ferry" } } })
local seen, told = {}, {}
local usual = vim.lsp.handlers["textDocument/publishDiagnostics"]
vim.lsp.handlers["textDocument/publishDiagnostics"] = function(error, result, context, config)
  if result.version then told[result.uri] = result.version end
  usual(error, result, context, config)
end
for name in vim.gsplit(vim.env.FILES, " ") do
  vim.cmd("edit " .. vim.fn.fnameescape(folder .. "/" .. name))
  local buffer = vim.api.nvim_get_current_buf()
  vim.lsp.buf_attach_client(buffer, client)
  vim.wait(30000, function() return told[vim.uri_from_bufnr(buffer)] ~= nil end, 20)
  local found = {}
  for _, one in ipairs(vim.diagnostic.get(buffer)) do
    table.insert(found, string.format("%d %s", one.lnum + 1, one.code or one.user_data.lsp.code))
  end
  table.sort(found)
  seen[name] = #found > 0 and found or vim.empty_dict()
end
vim.fn.writefile({ vim.fn.json_encode(seen) }, out)
vim.lsp.stop_client(client)
vim.cmd("qall!")
