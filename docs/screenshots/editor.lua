-- Neovim for the picture of the guide: the lines of the guide, and the menu of actions as soon as there are findings.
local client
vim.api.nvim_create_autocmd("FileType", {
  pattern = { "python" },
  callback = function(opened)
    client = client or vim.lsp.start_client({ name = "hsieve", cmd = { "hsieve", "lsp" }, root_dir = vim.fn.getcwd() })
    vim.lsp.buf_attach_client(opened.buf, client)
  end,
})
vim.api.nvim_create_autocmd("DiagnosticChanged", {
  once = true,
  callback = function() vim.defer_fn(vim.lsp.buf.code_action, 500) end,
})
vim.o.number = true
vim.o.ruler = false
